import { Delete } from 'lucide-react';
import { memo } from 'react';
import { Button as AriaButton } from 'react-aria-components';
import { styled } from 'styled-components';
import { color, shape, space } from '../../ui/theme';

/** Glove-size keys for a reading. `open` is no connection, `beep` the meter's own continuity tone. */
export const Keypad = memo(function Keypad({
  onKey,
  cylinder,
  volts,
  second,
}: {
  onKey: (key: string) => void;
  cylinder: boolean;
  /** A figure only: neither an open line nor a beep says anything. */
  volts: boolean;
  /** What the second plug or injector of a cylinder is called; empty where there is but one. */
  second: string;
}) {
  const key = (text: string, label = text) => (
    <Key key={text} onPress={() => onKey(text)} aria-label={label}>
      {text}
    </Key>
  );
  return (
    <Pad role="group" aria-label="Keypad">
      {['7', '8', '9'].map((text) => key(text))}
      <Key onPress={() => onKey('open')} isDisabled={volts} data-wide>
        {cylinder ? 'none' : 'open line'}
      </Key>
      {['4', '5', '6'].map((text) => key(text))}
      {second === '' ? (
        <Key onPress={() => onKey('beep')} isDisabled={cylinder || volts}>
          beep
        </Key>
      ) : (
        <Key onPress={() => onKey('second')}>{second}</Key>
      )}
      {['1', '2', '3'].map((text) => key(text))}
      <Key onPress={() => onKey('clear')}>clear</Key>
      {key('.', 'point')}
      {key('0')}
      <Key onPress={() => onKey('back')} aria-label="Delete the last figure">
        <Delete size={22} aria-hidden />
      </Key>
      <Key onPress={() => onKey('next')} data-act>
        Next
      </Key>
    </Pad>
  );
});

const Pad = styled.div`
  display: grid;
  grid-template-columns: repeat(3, minmax(0, 1fr)) minmax(0, 1.4fr);
  gap: ${space[2]};
  max-width: 400px;
`;
const Key = styled(AriaButton)`
  min-height: 48px;
  border: ${shape.line} solid ${color.ink};
  border-radius: ${shape.radius};
  background: ${color.sheet};
  font-size: 19px;
  font-weight: 700;
  cursor: pointer;
  display: grid;
  place-items: center;
  &:nth-child(4n) {
    font-size: 15px;
  }
  &[data-act] {
    background: ${color.ink};
    color: ${color.onInk};
  }
  &[data-pressed] {
    background: ${color.raised};
    color: ${color.ink};
  }
  &[data-disabled] {
    opacity: 0.4;
  }
`;
