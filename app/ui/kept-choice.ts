/** A choice of how things look, kept for the next visit. The server reads it too, so that the first picture is right. */
export const keptChoice = (name: string, cookie: string | null): string | undefined =>
  new RegExp(`(?:^|;\\s*)${name}=(\\w+)`).exec(cookie ?? '')?.[1];

/** Keeps a choice for a year. */
export function keepChoice(name: string, value: string): void {
  document.cookie = `${name}=${value};path=/;max-age=31536000;samesite=strict`;
}
