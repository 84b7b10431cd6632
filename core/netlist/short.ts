/** Label of a cavity in a few letters, for the drawn face: whole words while they fit, then shortened ones. */
export function shortLabel(label: string, most = 13): string {
  if (label.length <= most) return label;
  const words = label.split(/\s+/);
  for (let keep = 6; keep >= 2; keep -= 1) {
    const text = words
      .map((word) => (word.length > keep + 1 && !/\d/.test(word) ? word.slice(0, keep) : word))
      .join(' ');
    if (text.length <= most) return text;
  }
  return label.slice(0, most);
}
