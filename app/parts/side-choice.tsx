import { Segmented } from '../ui/choice';
import type { FaceSide } from './connector-face';

/** From which side a plug is looked at. */
export function SideChoice({
  value,
  onChange,
  label,
}: {
  value: FaceSide;
  onChange: (side: FaceSide) => void;
  /** Seen; absent: spoken only. */
  label?: string;
}) {
  return (
    <Segmented
      label={label ?? 'Side'}
      hideLabel={label === undefined}
      choices={[
        { id: 'wire', name: 'wire side' },
        { id: 'mating', name: 'mating side' },
      ]}
      value={value}
      onChange={onChange}
    />
  );
}
