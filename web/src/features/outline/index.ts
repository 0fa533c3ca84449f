export { OutlineEntryPage } from './OutlineEntryPage';
export { OutlineListPage } from './OutlineListPage';
export { OutlinePage } from './OutlinePage';
