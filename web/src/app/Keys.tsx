import { Dialog } from '../shared/ui/Dialog';

const KEYS: [string, string][] = [
  ['/ or Ctrl K', 'Find a number, PO or name'],
  ['J, K', 'Next and previous in a list'],
  ['Enter', 'Open'],
  ['X', 'Select a row'],
  ['Shift X', 'Select all that are shown, or none'],
  ['W', 'Waive findings'],
  ['C', 'Clear: approve or clear the order, or all selected orders'],
  ['Shift J, Shift K', 'Move an order later or earlier in a bulk decision'],
  ['S', 'Send an order back'],
  ['D', 'Decline the order'],
  ['F, V, E', 'Filter a list, open one of its views, take it as a file'],
  ['T', 'Open the trail'],
  ['U', 'Open Unwind'],
  ['B', 'Authorise a return'],
  ['N', 'New order'],
  ['Ctrl Enter', 'Submit an order, carry out a plan, do what stands first below a list'],
  ['Ctrl S', 'Save as draft'],
  ['R', 'Run the proof again'],
];

/** Which keys there are. */
export function KeysDialog({ onClose }: { onClose: () => void }) {
  return (
    <Dialog closeOnClickOutside onClose={onClose} title="Keys">
      {KEYS.map(([key, what]) => (
        <div className="pair" key={key}>
          <span>{what}</span>
          <kbd>{key}</kbd>
        </div>
      ))}
    </Dialog>
  );
}
