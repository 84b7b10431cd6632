import type { Migration } from './migration';

/*
 * From version 3 to 4. Frozen: it uses nothing of today's code. A wheel may have further tracks; wheels of one stay as they
 * are. The step exists so that a Gonyx that knows no tracks refuses the file instead of dropping them.
 */
export const tracks: Migration = { from: 3, name: 'tracks', migrate: (file) => file };
