import { useMutation } from '@tanstack/react-query';
import { useState, type ReactNode } from 'react';
import { answer, client, once, type Schemas } from '../../shared/api/http';
import { useSession } from '../../shared/session';
import { ProblemNote, tell, tellProblem } from '../../shared/ui';
import { Dialog } from '../../shared/ui/Dialog';
import { Field, TextLine } from '../../shared/ui/fields';

export type Paper = Schemas['WrittenPrint']['paper'];

/**
 * Puts documents on paper and opens their file; what was on paper before is marked as a copy. Whoever changes nothing looks at
 * the papers, and no copy is counted.
 */
export function usePrint() {
  const { may } = useSession();
  return useMutation({
    mutationFn: async ({ paper, numbers }: { paper: Paper; numbers: string[] }) => {
      // opened before the answer is there, or the browser takes it for an advertisement
      const page = window.open('', '_blank');
      if (!may('PROPOSE')) {
        const asked = numbers.map((number) => `number=${encodeURIComponent(number)}`).join('&');
        if (page) page.location.href = `/api/papers/${paper}?${asked}`;
        return { sheets: [] };
      }
      try {
        const print = await answer(client.POST('/api/prints', { body: { paper, numbers }, ...once() }));
        if (page) page.location.href = `/api/prints/${print.id}/pdf`;
        else window.location.href = `/api/prints/${print.id}/pdf`;
        return print;
      } catch (problem) {
        page?.close();
        throw problem;
      }
    },
    onSuccess: (print) => {
      const copies = print.sheets.filter((sheet) => sheet.copy > 0).length;
      if (copies > 0)
        tell(
          copies === 1 && print.sheets.length === 1
            ? 'Printed before: marked as a copy.'
            : `${copies} of ${print.sheets.length} were printed before: marked as copies.`,
        );
    },
    onError: tellProblem,
  });
}

export function PrintButton({
  paper,
  numbers,
  children,
  plain,
}: {
  paper: Paper;
  numbers: string[];
  children: string;
  plain?: boolean;
}) {
  const print = usePrint();
  return (
    <button
      className={plain ? 'plain' : 'button'}
      disabled={print.isPending || numbers.length === 0}
      onClick={() => print.mutate({ paper, numbers })}
    >
      {children}
    </button>
  );
}

/** Sends a document to its customer with the file attached: it goes to the Outbox. */
export function MailButton({ paper, number, plain }: { paper: Paper; number: string; plain?: boolean }) {
  const { may } = useSession();
  const [open, setOpen] = useState(false);
  const [to, setTo] = useState('');
  const mail = useMutation({
    mutationFn: () =>
      answer(client.POST('/api/mails', { body: { paper, number, to: to.trim() || undefined }, ...once() })),
    onSuccess: () => {
      tell('Mail with the file attached is in the Outbox.');
      setOpen(false);
    },
  });
  if (!may('PROPOSE')) return null;
  return (
    <>
      <button className={plain ? 'plain' : 'button'} onClick={() => setOpen(true)}>
        Mail
      </button>
      {open && (
        <Dialog onClose={() => setOpen(false)} title={`Mail ${number}`}>
          <form
            onSubmit={(event) => {
              event.preventDefault();
              if (!mail.isPending) mail.mutate();
            }}
          >
            {!may('DECIDE') && <p>It goes to the address in the customer’s record.</p>}
            <Field
              of="mail-to"
              label="To (empty: the customer’s address)"
              className="around-12px-0"
              hidden={!may('DECIDE')}
            >
              <TextLine id="mail-to" data-autofocus type="email" maxLength={200} value={to} onChange={setTo} />
            </Field>
            <ProblemNote problem={mail.error} />
            <button type="submit" className="button first" disabled={mail.isPending}>
              Send <kbd>↵</kbd>
            </button>
          </form>
        </Dialog>
      )}
    </>
  );
}

/** Below a list: what is selected goes on paper as one file. */
export function PrintBar({ paper, numbers, children }: { paper: Paper; numbers: string[]; children?: ReactNode }) {
  return (
    <div className="bar">
      <PrintButton paper={paper} numbers={numbers}>
        {`Print ${numbers.length || ''} selected`}
      </PrintButton>
      {children}
      <span className="muted small">
        <kbd>X</kbd> selects · one file in the sequence of the list · reprints are marked as copies
      </span>
    </div>
  );
}
