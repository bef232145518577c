import dayjs from 'dayjs';
import timezone from 'dayjs/plugin/timezone.js';
import utc from 'dayjs/plugin/utc.js';

dayjs.extend(utc);
dayjs.extend(timezone);

/** The day of a moment where somebody lives. */
export const dayIn = (zone: string, at: Date | string): string => dayjs(at).tz(zone).format('YYYY-MM-DD');
/** A moment on somebody's own clock, to the millisecond, without saying which clock that is. */
export const wallClock = (at: Date | string, zone: string): string =>
  dayjs(at).tz(zone).format('YYYY-MM-DDTHH:mm:ss.SSS');
export const today = (): string => new Date().toISOString().slice(0, 10);
