import type { ReactNode } from 'react';
import { Checkbox as AriaCheckbox, Radio, RadioGroup } from 'react-aria-components';
import { styled } from 'styled-components';
import { fieldLook } from './field-look';
import { FieldLabel } from './field-parts';
import { at, color, shape, space } from './theme';

const Segments = styled(RadioGroup)`
  ${fieldLook}
`;
const SegmentRow = styled.div`
  display: inline-flex;
  flex-wrap: wrap;
  border: ${shape.line} solid ${color.ink};
  border-radius: ${shape.radius};
  overflow: hidden;
  width: fit-content;
  max-width: 100%;
  ${at.print} {
    border: 0;
  }
`;
/** One below the other, where the row would break. */
const SegmentColumn = styled(SegmentRow)`
  flex-direction: column;
  width: 100%;
  ${at.tablet} {
    flex-direction: row;
    width: fit-content;
  }
`;
const Segment = styled(Radio)`
  padding: ${space[1]} ${space[3]};
  min-height: 34px;
  display: inline-flex;
  align-items: center;
  cursor: pointer;
  &[data-selected] {
    background: ${color.ink};
    color: ${color.onInk};
  }
  &[data-focus-visible] {
    outline-offset: -3px;
  }
  @media (pointer: coarse) {
    min-height: ${shape.target};
  }
  /* On paper only what was chosen stands. */
  ${at.print} {
    min-height: 0;
    padding: 0;
    &[data-selected] {
      background: none;
      color: ${color.ink};
    }
    &:not([data-selected]) {
      display: none;
    }
  }
`;

/** A few ways to do a thing, all in sight. */
export function Segmented<T extends string>({
  label,
  hideLabel,
  stacked,
  choices,
  value,
  onChange,
}: {
  label: string;
  hideLabel?: boolean;
  stacked?: boolean;
  choices: readonly { id: T; name: string }[];
  value: T;
  onChange: (id: T) => void;
}) {
  const Frame = stacked ? SegmentColumn : SegmentRow;
  return (
    <Segments
      value={value}
      onChange={(next) => onChange(next as T)}
      orientation={stacked ? 'vertical' : 'horizontal'}
      aria-label={hideLabel ? label : undefined}
    >
      {!hideLabel && <FieldLabel>{label}</FieldLabel>}
      <Frame>
        {choices.map((choice) => (
          <Segment key={choice.id} value={choice.id}>
            {choice.name}
          </Segment>
        ))}
      </Frame>
    </Segments>
  );
}

const Check = styled(AriaCheckbox)`
  display: flex;
  align-items: flex-start;
  gap: ${space[2]};
  cursor: pointer;
  min-height: 28px;
  &[data-disabled] {
    cursor: default;
    color: ${color.soft};
  }
  @media (pointer: coarse) {
    min-height: ${shape.target};
    align-items: center;
  }
`;
const CheckMark = styled.span`
  flex: none;
  width: 20px;
  height: 20px;
  margin-top: 1px;
  border: ${shape.line} solid currentColor;
  border-radius: 4px;
  display: grid;
  place-items: center;
  & > svg {
    width: 14px;
    height: 14px;
    stroke-width: 3;
  }
`;

export function Checkbox({
  children,
  isSelected,
  onChange,
  isDisabled,
}: {
  children: ReactNode;
  isSelected: boolean;
  onChange?: (value: boolean) => void;
  isDisabled?: boolean;
}) {
  return (
    <Check isSelected={isSelected} onChange={onChange} isDisabled={isDisabled}>
      {({ isSelected: on }) => (
        <>
          <CheckMark aria-hidden>
            {on && (
              <svg viewBox="0 0 16 16" fill="none" stroke="currentColor">
                <path d="M2 8l4 4 8-9" />
              </svg>
            )}
          </CheckMark>
          <span>{children}</span>
        </>
      )}
    </Check>
  );
}
