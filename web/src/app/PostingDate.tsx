import { dateDocuments, useDated } from '../shared/api/dated';
import { date } from '../shared/format';
import { may, useSession } from '../shared/session';
import { DayInput } from '../shared/ui/DayInput';
import { readAgain } from './queries';

/**
 * The date that whatever is posted from here carries: today, unless somebody dates documents back. It stands on every page, and
 * nobody overlooks another one than today's.
 */
export function PostingDate() {
  const { role, today } = useSession();
  const dated = useDated();
  if (!may(role, 'post')) return <span className="muted nowrap">{date(today)}</span>;
  const set = (to: string | null, reason = dated.reason) => {
    dateDocuments({ date: to === today ? null : to, reason });
    void readAgain();
  };
  return (
    <span className={`posting-date nowrap${dated.date ? ' back' : ' muted'}`}>
      {dated.date ? 'Documents are dated' : 'Dated'}{' '}
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
      {dated.date && (
        <>
          {may(role, 'dateFarBack') && (
            <input
              className="cell-input"
              style={{ width: 170 }}
              aria-label="Reason for the date"
              placeholder="reason, if far back"
              maxLength={2000}
              value={dated.reason}
              onChange={(event) => {
                dateDocuments({ ...dated, reason: event.target.value });
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
