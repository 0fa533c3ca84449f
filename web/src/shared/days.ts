import dayjs from 'dayjs';
import customParseFormat from 'dayjs/plugin/customParseFormat';

dayjs.extend(customParseFormat);

/** How a day may be typed: as it is shown, with the month in full, or as ISO 8601. Nothing ambiguous is guessed. */
const TYPED = ['D MMM YYYY', 'D MMMM YYYY', 'YYYY-MM-DD'];

/** The day that a text names, as ISO 8601; null while it names none. */
export function parseDay(text: string): string | null {
  const day = dayjs(text.trim(), TYPED, true);
  return day.isValid() ? day.format('YYYY-MM-DD') : null;
}
