import dayjs from 'dayjs';
import { useSession } from '../session';

/** So many months are offered. */
const OFFERED = 36;

/** Months as they are written in filters and as they read, this one first. */
export function useMonths(): [string, string][] {
  const { today } = useSession();
  return Array.from({ length: OFFERED }, (_, back) => {
    const month = dayjs(today).subtract(back, 'month');
    return [`month-${month.format('YYYY-MM')}`, month.format('MMMM YYYY')];
  });
}
