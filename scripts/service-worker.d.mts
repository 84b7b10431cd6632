/** The text of the service worker of one version. */
export function serviceWorker(version: {
  readonly name: string;
  readonly files: readonly string[];
  readonly pages: readonly string[];
  readonly patterns: readonly (readonly [source: string, page: string])[];
}): string;
