export { MessagePage, OutboxPage } from './OutboxPage';
