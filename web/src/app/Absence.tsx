import { useMutation, useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { answer, client, once } from '../shared/api/http';
import { keyOf } from '../shared/api/keyOf';
import { queries } from '../shared/api/queries';
import { usersQuery } from '../shared/api/users';
import { date } from '../shared/format';
import { useSession } from '../shared/session';
import { ProblemNote, tell } from '../shared/ui';
import { DayInput } from '../shared/ui/DayInput';
import { Dialog } from '../shared/ui/Dialog';
import { Choice, Field } from '../shared/ui/fields';

const absencesQuery = { queryKey: keyOf('absences'), queryFn: () => answer(client.GET('/api/users/absences')) };

/** Who stands in for whoever is signed in, from when and until when; and who else is away. */
export function AbsenceDialog({ onClose }: { onClose: () => void }) {
  const { username, today } = useSession();
  const { data } = useQuery(absencesQuery);
  const users = useQuery(usersQuery).data ?? [];
  const mine = data?.absences.find((absence) => absence.of === username);
  const others = data?.absences.filter((absence) => absence.of !== username) ?? [];
  const [deputy, setDeputy] = useState('');
  const [from, setFrom] = useState(today);
  const [until, setUntil] = useState(today);
  const set = useMutation({
    mutationFn: (body: { deputy?: string; from?: string; until?: string }) =>
      answer(client.PUT('/api/users/me/absence', { body, ...once() })),
    onSuccess: (view) => {
      queries.setQueryData(absencesQuery.queryKey, view);
      tell(
        view.absences.some((absence) => absence.of === username)
          ? 'Your deputy decides for you on those days, and is reminded with you.'
          : 'You have no deputy.',
      );
      onClose();
    },
  });
  return (
    <Dialog onClose={onClose} title="While you are away">
      {mine && (
        <p>
          From {date(mine.from)} until {date(mine.until)} <b>{mine.deputy}</b> is your deputy.{' '}
          <button className="plain" disabled={set.isPending} onClick={() => set.mutate({})}>
            Cancel the absence
          </button>
        </p>
      )}
      <form
        onSubmit={(event) => {
          event.preventDefault();
          set.mutate({ deputy, from, until });
        }}
      >
        <div className="fields columns-1fr-120px-120px">
          <Field of="deputy" label="Deputy, with your authority">
            <Choice id="deputy" data-autofocus value={deputy} onChange={setDeputy}>
              <option value="" />
              {users
                .filter((user) => user.username !== username)
                .map((user) => (
                  <option key={user.username} value={user.username}>
                    {user.displayName}
                    {user.role ? `, ${user.role.toLowerCase()}` : ''}
                  </option>
                ))}
            </Choice>
          </Field>
          <Field of="away-from" label="From">
            <DayInput id="away-from" value={from} onChange={setFrom} />
          </Field>
          <Field of="away-until" label="Until">
            <DayInput id="away-until" value={until} onChange={setUntil} />
          </Field>
        </div>
        <ProblemNote problem={set.error} />
        <button type="submit" className="button first" disabled={!deputy || set.isPending}>
          Save the deputy
        </button>
      </form>
      {others.length > 0 && (
        <section className="above-18">
          <h2>Current and coming absences</h2>
          {others.map((absence) => (
            <div className="pair" key={absence.of}>
              <span>
                {absence.of}: {absence.deputy} decides
              </span>
              <span className="muted nowrap">
                {date(absence.from)} – {date(absence.until)}
              </span>
            </div>
          ))}
        </section>
      )}
    </Dialog>
  );
}
