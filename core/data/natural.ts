const collator = new Intl.Collator('en', { numeric: true, sensitivity: 'base' });

/** Order in which people read names with numbers: `A2` before `A10`, upper and lower case alike. */
export const natural = (one: string, other: string): number => collator.compare(one, other);
