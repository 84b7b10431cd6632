import { useState } from 'react';
import { useEdited } from '../ui/edited';
import { TextField } from '../ui/text-field';

/** A figure that people write in words of their own, such as feet and inches: entered when the field is left, or by Enter. */
export function ParsedField({
  shown,
  parse,
  onEnter,
  wrong,
  ...props
}: {
  label: string;
  hideLabel?: boolean;
  hint?: string;
  /** What stands there now, in words. */
  shown: string;
  /** The figure of a text; null when it cannot be told or is out of range. */
  parse: (text: string) => number | null;
  onEnter: (value: number) => void;
  /** How it is written, and within which bounds. */
  wrong: string;
}) {
  const [text, setText] = useEdited(shown);
  const [isWrong, setWrong] = useState(false);
  const enter = () => {
    if (text.trim() === shown) return;
    const value = parse(text);
    setWrong(value === null);
    if (value !== null) onEnter(value);
  };
  return (
    <TextField
      {...props}
      value={text}
      onChange={(next) => {
        setWrong(false);
        setText(next);
      }}
      onBlur={enter}
      onKeyDown={(event) => event.key === 'Enter' && enter()}
      error={isWrong ? wrong : undefined}
      maxLength={24}
    />
  );
}
