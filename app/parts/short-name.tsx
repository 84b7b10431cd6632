import { tagOf } from '~/core/netlist/short';

/** A label as it stands on a tag, in one line; the full name on hover, and for those who hear it. */
export function ShortName({ label }: { label: string }) {
  const tag = tagOf(label);
  return tag === label ? (
    <>{label}</>
  ) : (
    <span title={label} aria-label={label} role="text">
      {tag}
    </span>
  );
}
