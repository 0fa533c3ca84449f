export { Attachments } from './Attachments';
export { DetailsLine } from './DetailsLine';
export { StartFrom, startable } from './StartFrom';
