import { tagOf } from '~/core/netlist/short';
import { VisuallyHidden } from '../ui/text';

/** A label as it stands on a tag, in one line; the full name on hover, and for those who hear it. */
export function ShortName({ label }: { label: string }) {
  const tag = tagOf(label);
  return tag === label ? (
    <>{label}</>
  ) : (
    <span title={label}>
      <span aria-hidden>{tag}</span>
      <VisuallyHidden>{label}</VisuallyHidden>
    </span>
  );
}
