import { useEffect, useMemo, useRef } from 'react';
import { styled } from 'styled-components';
import { readPinout, type Span } from '~/core/ecu/pinout/read';
import { Heading, Small, Stack } from '../../ui/text';
import { color, shape, space, type } from '../../ui/theme';

/** Spans of one line of the text. */
function linesOf(text: string, spans: readonly Span[]): Span[][] {
  const lines: Span[][] = [[]];
  for (const span of spans) {
    let { from } = span;
    for (const match of text.slice(span.from, span.to).matchAll(/\r\n|\r|\n/g)) {
      const at = span.from + match.index;
      if (at > from) lines[lines.length - 1].push({ ...span, from, to: at });
      lines.push([]);
      from = at + match[0].length;
    }
    if (span.to > from) lines[lines.length - 1].push({ ...span, from });
  }
  return lines;
}

/**
 * The text a definition was read from, with what became of every piece of it: press one to see its pins among the others, press
 * a pin and its words are lit here.
 */
export function SourceText({
  source,
  chosen,
  onChoose,
}: {
  source: string;
  chosen: ReadonlySet<string>;
  onChoose: (pins: ReadonlySet<string>) => void;
}) {
  const lines = useMemo(() => {
    const read = readPinout(source);
    return read.ok ? linesOf(source, read.value.spans) : null;
  }, [source]);
  const box = useRef<HTMLDivElement>(null);
  useEffect(() => {
    box.current?.querySelector('[data-lit="true"]')?.scrollIntoView({ block: 'nearest' });
  }, [chosen]);
  return (
    <Stack $gap={2}>
      <Heading>The text it was read from</Heading>
      <Text ref={box} tabIndex={0} role="group" aria-label="The text it was read from">
        {lines === null
          ? source
          : lines.map((line, index) => (
              <Line key={index}>
                {line.map((span) =>
                  span.use === 'sign' ? (
                    <span key={span.from}>{source.slice(span.from, span.to)}</span>
                  ) : (
                    <Piece
                      key={span.from}
                      type="button"
                      title={span.said}
                      data-use={span.use}
                      data-lit={span.pins.some((id) => chosen.has(id))}
                      disabled={span.pins.length === 0}
                      onClick={() => onChoose(new Set(span.pins))}
                    >
                      {source.slice(span.from, span.to)}
                    </Piece>
                  ),
                )}
              </Line>
            ))}
      </Text>
      <Small>
        Press a piece to find its pin, or a pin to find its words. Struck through is what was left out; hold the pointer
        on it to see why.
      </Small>
    </Stack>
  );
}

const Text = styled.div`
  max-height: 56vh;
  overflow: auto;
  padding: ${space[2]};
  border: ${shape.hair} solid ${color.rule};
  background: ${color.raised};
  font-family: ${type.mono};
  font-size: ${type.small};
  white-space: pre-wrap;
  overflow-wrap: anywhere;
  position: relative;
`;
/** A long text is laid out only where it is looked at. */
const Line = styled.div`
  min-height: 1.3em;
  content-visibility: auto;
  contain-intrinsic-size: auto 20px;
`;
const Piece = styled.button`
  border: 0;
  padding: 0 1px;
  background: none;
  color: ${color.ink};
  font: inherit;
  text-align: left;
  white-space: pre-wrap;
  cursor: pointer;
  border-radius: 2px;
  &[data-use='cavity'] {
    font-weight: 700;
  }
  &[data-use='empty'],
  &[data-use='connector'],
  &[data-use='heading'],
  &[data-use='lead'] {
    color: ${color.soft};
  }
  &[data-use='note'] {
    color: ${color.soft};
    text-decoration: line-through;
  }
  &:disabled {
    cursor: default;
  }
  &:not(:disabled):not([data-lit='true']):hover {
    background: ${color.selectionWash};
  }
  &[data-lit='true'] {
    background: ${color.selection};
    color: ${color.onInk};
  }
`;
