import { lazy, Suspense } from 'react';
import { dateDocuments, useDated } from '../shared/api/dated';
import { readAgain } from '../shared/api/queries';
import { date } from '../shared/format';
import { useSession } from '../shared/session';
import { TextLine } from '../shared/ui/fields';

// the calendar is not waited for
const DayInput = lazy(() => import('../shared/ui/DayInput').then((loaded) => ({ default: loaded.DayInput })));

/**
 * The date that whatever is posted from here carries: today, unless somebody dates documents back. It stands on every page, and
 * nobody overlooks another one than today's.
 */
export function PostingDate() {
  const { today, may } = useSession();
  const dated = useDated();
  if (!may('PROPOSE')) return <span className="muted nowrap">{date(today)}</span>;
  const set = (to: string | null, reason = dated.reason) => {
    dateDocuments({ date: to === today ? null : to, reason });
    void readAgain();
  };
  return (
    <span className={`posting-date nowrap${dated.date ? ' back' : ' muted'}`}>
      {dated.date ? 'Documents are dated' : 'Dated'}{' '}
      <Suspense fallback={date(dated.date ?? today)}>
        <DayInput
          label="Date of documents"
          className="cell-input"
          style={{ width: 106, display: 'inline-block' }}
          value={dated.date ?? today}
          max={today}
          onChange={(day) => {
            set(day);
          }}
        />
      </Suspense>
      {dated.date && (
        <>
          {may('DATE_FAR_BACK') && (
            <TextLine
              className="cell-input wide-170"
              aria-label="Reason for the date"
              placeholder="reason, if far back"
              maxLength={2000}
              value={dated.reason}
              onChange={(to) => {
                dateDocuments({ ...dated, reason: to });
              }}
            />
          )}
          <button
            className="plain"
            onClick={() => {
              set(null, '');
            }}
          >
            Today
          </button>
        </>
      )}
    </span>
  );
}
