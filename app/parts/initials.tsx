import { useState } from 'react';
import { useBuild } from '../build/context';
import { lastInitials, rememberInitials } from '../storage/initials';
import { TextField } from '../ui/text-field';

/** Who is at work: what was given last on this device, else what the build knows. Given once, it is known everywhere. */
export function useInitials(): [string, (by: string) => void] {
  const { build } = useBuild();
  const [by, setBy] = useState(() => lastInitials() || build.prove.by);
  return [
    by,
    (next) => {
      setBy(next);
      rememberInitials(next);
    },
  ];
}

export function InitialsField({
  label,
  by,
  onBy,
  asked = false,
}: {
  label: string;
  by: string;
  onBy: (by: string) => void;
  /** Says that nothing can be confirmed without. */
  asked?: boolean;
}) {
  return (
    <TextField
      label={label}
      value={by}
      onChange={onBy}
      maxLength={40}
      placeholder="initials"
      hint={asked && by.trim() === '' ? 'Needed before anything is confirmed.' : undefined}
    />
  );
}
