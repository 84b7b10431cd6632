/**
 * Rules whose findings nobody can set aside: restraint wires, the starter's interlock, and the two tracks that check each
 * other. Everything else is the person's own judgement, by initials and a reason.
 */
const binding: ReadonlySet<string> = new Set(['BB-3', 'BB-10', 'SE-12']);
export const isBinding = (rule: string): boolean => binding.has(rule);
