import { Dialog } from '../ui/Dialog';
import { fileOf, type Asked, type ListView } from './api';

/** Just what is shown as a file. */
export function ExportDialog({ list, asked, onClose }: { list: ListView; asked: Asked; onClose: () => void }) {
  const file = (words: string, href: string, what: string) => (
    <p>
      <a href={href} download onClick={onClose}>
        {words}
      </a>
      <span className="muted">: {what}</span>
    </p>
  );
  return (
    <Dialog title={`Export ${list.many}`} closeOnClickOutside onClose={onClose}>
      {file('CSV', fileOf(list.name, asked, 'CSV'), 'for other programs')}
      {file(
        'CSV with a byte order mark',
        fileOf(list.name, asked, 'CSV', true),
        'for those that take it for something else without',
      )}
      {file('XLSX', fileOf(list.name, asked, 'XLSX'), 'a workbook with figures and days as such')}
      {file('PDF', fileOf(list.name, asked, 'PDF'), 'to print, up to 2,000 rows')}
    </Dialog>
  );
}
