const KEY = 'gonyx-initials';

/** Initials this person gave last, on any build of this device. */
export function lastInitials(): string {
  try {
    return (localStorage.getItem(KEY) ?? '').slice(0, 40);
  } catch {
    // Storage turned off: they are asked for again.
    return '';
  }
}
export function rememberInitials(by: string): void {
  try {
    if (by.trim() !== '') localStorage.setItem(KEY, by.trim().slice(0, 40));
  } catch {
    // A convenience only; each record keeps its own initials.
  }
}
