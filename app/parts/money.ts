/** An amount in a currency, as its own signs write it. An unknown code is written out. */
export function money(amount: number, currency: string): string {
  try {
    return new Intl.NumberFormat('en-GB', { style: 'currency', currency }).format(amount);
  } catch (error) {
    // Only a code Intl does not take ends here (RangeError); anything else is a bug.
    if (!(error instanceof RangeError)) throw error;
    return `${amount.toFixed(2)} ${currency}`;
  }
}
