/** Words that only set a kind apart from others of its sort; on a loom tag the sort is enough. */
const apart = /\s+(?:with|without)\s+.*$|\s+in one\b.*$|\s+on\s+(?:CAN|the gearbox)$|\s+straight into\b.*$/i;

/**
 * What a part is called before a person names it: the kind's name up to what sets it apart, without the word 'sensor' where
 * the rest says it. `Coil with igniter, four terminals` is `Coil`, `Manifold pressure sensor, 3 bar absolute` is
 * `Manifold pressure`, `Injector, high impedance` is `Injector`.
 */
export function shortKindName(name: string): string {
  const parts = name.split(',');
  // Of a gauge's senders the second word tells which.
  const head = (/^gauge sender$/i.test(parts[0]!) && parts[1] ? `${parts[0]}${parts[1]}` : parts[0]!)
    .replace(apart, '')
    .trim();
  const bare = head.replace(/\s+sensor$/i, '');
  // 'Crank sensor' alone would be a crank.
  const said =
    /^(crank|cam|knock|speed|wheel speed|turbocharger speed|position|wideband|oxygen|narrow-band oxygen|fuel composition)$/i.test(
      bare,
    )
      ? head
      : bare;
  return said === '' ? name : said;
}

/** The name with the lowest number that no other part has; bare where it is the first. */
export function freeLabel(base: string, taken: ReadonlySet<string>): string {
  if (!taken.has(base)) return base;
  let number = 2;
  while (taken.has(`${base} ${number}`)) number += 1;
  return `${base} ${number}`;
}
