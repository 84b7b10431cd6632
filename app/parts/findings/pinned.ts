const COOKIE = 'gonyx-findings';

/** Whether the person keeps the panel of findings beside the work. */
export const isPinned = (): boolean => new RegExp(`(?:^|;\\s*)${COOKIE}=pinned`).test(document.cookie);

/** Kept for the next visit, as the theme is. */
export function keepPinned(pinned: boolean): void {
  document.cookie = `${COOKIE}=${pinned ? 'pinned' : 'open'};path=/;max-age=31536000;samesite=strict`;
}
