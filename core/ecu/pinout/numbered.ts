/** Words that tell the two wires of a pair apart, first and second. */
const opposites: readonly RegExp[] = [
  /(high|hi|h)\s*\/\s*(low|lo|l)\b/i,
  /(\+)\s*\/\s*([-–−])/,
  // The name said twice: `VR+/VR-`, `CAN-H / CAN-L`.
  /([A-Z]\w*\s?\+)\s*\/\s*([A-Z]\w*\s?[-–−])/i,
  /([A-Z]\w*[\s_-]?(?:high|hi|h))\s*\/\s*([A-Z]\w*[\s_-]?(?:low|lo|l))\b/i,
  /(pos(?:itive)?)\s*\/\s*(neg(?:ative)?)\b/i,
  /(plus)\s*\/\s*(minus)\b/i,
];

/** One line for several cavities: `Injector 1-4` on `A1-A4` gives each its own number; otherwise all share the words. */
export function numbered(label: string, text: string, index: number, count: number): [string, string] {
  if (count === 1) return [label, text];
  const own = (words: string): string => {
    const pair = count === 2 ? opposites.map((shape) => shape.exec(words)).find((match) => match) : undefined;
    if (pair) return words.replace(pair[0], pair[index + 1]!);
    const range = /\b(\d{1,2})\s*(?:-|–|\.\.|to|bis|à|\ba\b)\s*(\d{1,2})\b(?!\s*(?:k?Hz|V|m?A|k?Ω|ohm))/i.exec(words);
    if (range && Number(range[2]) - Number(range[1]) === count - 1)
      return words.replace(range[0], String(Number(range[1]) + index));
    const list = /\b\d{1,2}(?:\s*(?:,|\/|&|\band\b|\bund\b|\bet\b|\by\b|\be\b)\s*\d{1,2})+\b/i.exec(words);
    const numbers = list?.[0].match(/\d+/g);
    if (list && numbers?.length === count) return words.replace(list[0], numbers[index]!);
    return words;
  };
  return [own(label), own(text)];
}
