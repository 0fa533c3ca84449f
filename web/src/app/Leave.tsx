import { Dialog } from '../shared/ui/Dialog';

/** Asks whether what was typed may be lost. */
export function LeaveDialog({ onStay, onLeave }: { onStay: () => void; onLeave: () => void }) {
  return (
    <Dialog onClose={onStay} title="Not saved yet">
      <p>What you changed here is lost if you leave.</p>
      <div className="row gap-10">
        <button className="button first" data-autofocus onClick={onStay}>
          Stay
        </button>
        <button className="button" onClick={onLeave}>
          Leave without saving
        </button>
      </div>
    </Dialog>
  );
}
