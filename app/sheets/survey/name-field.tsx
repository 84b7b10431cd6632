import { useEdited } from '../../ui/edited';
import { TextField } from '../../ui/text-field';

/** A short name within a row, entered when the field is left; an empty one is not taken. */
export function NameField({
  label,
  name,
  onChange,
}: {
  label: string;
  name: string;
  onChange: (name: string) => void;
}) {
  const [text, setText] = useEdited(name);
  return (
    <TextField
      label={label}
      hideLabel
      value={text}
      onChange={setText}
      maxLength={40}
      onBlur={() => text.trim() !== '' && text !== name && onChange(text.trim())}
    />
  );
}
