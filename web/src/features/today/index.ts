export { TodayPage } from './TodayPage';
