/** Today as the person's calendar has it, `2026-11-23`. */
export function today(): string {
  const now = new Date();
  const two = (value: number) => String(value).padStart(2, '0');
  return `${now.getFullYear()}-${two(now.getMonth() + 1)}-${two(now.getDate())}`;
}
/** `23 Nov 2026` of a calendar day. */
export const dayWords = (day: string): string =>
  new Intl.DateTimeFormat('en-GB', { dateStyle: 'medium', timeZone: 'UTC' }).format(new Date(`${day}T00:00:00Z`));
/** `24 Nov, 14:05` of an instant, in the person's own time. */
export const localTime = (instant: string): string =>
  new Intl.DateTimeFormat('en-GB', { day: 'numeric', month: 'short', hour: '2-digit', minute: '2-digit' }).format(
    new Date(instant),
  );
/** `23 Nov 2026` of an instant, in the person's own time. */
export const dayOf = (instant: string): string =>
  new Intl.DateTimeFormat('en-GB', { dateStyle: 'medium' }).format(new Date(instant));
