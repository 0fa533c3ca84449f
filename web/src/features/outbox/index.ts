export { OutboxPage } from './OutboxPage';
