import { useMemo, useState } from 'react';
import { styled } from 'styled-components';
import { encode } from 'uqr';
import { call } from '~/core/edits';
import { addressMiss, tagsOf } from '~/core/loom/tags';
import { plural } from '~/core/units/format';
import { useBuild } from '../../build/context';
import { Checkbox } from '../../ui/choice';
import { Heading, ScreenOnly, Small, Stack } from '../../ui/text';
import { TextField } from '../../ui/text-field';
import { color, space } from '../../ui/theme';

/** A code as one path, a square for each dark module; its quiet zone of four is the tag's own margin (ISO/IEC 18004). */
function Code({ text }: { text: string }) {
  const { path, size } = useMemo(() => {
    const { data, size: modules } = encode(text, { ecc: 'M', border: 0 });
    return {
      size: modules,
      path: data.flatMap((row, y) => row.flatMap((dark, x) => (dark ? `M${x} ${y}h1v1h-1z` : []))).join(''),
    };
  }, [text]);
  return (
    <svg viewBox={`0 0 ${size} ${size}`} width="20mm" height="20mm" aria-hidden shapeRendering="crispEdges">
      <path d={path} fill="#000" />
    </svg>
  );
}

/** Tags with a code for every plug: off until somebody asks for them. */
export function Tags() {
  const { build, derived, edit } = useBuild();
  const address = build.loom.tags ?? '';
  const [text, setText] = useState(address);
  const [isWrong, setWrong] = useState(false);
  const tags = useMemo(() => tagsOf(build, derived.net), [build, derived.net]);
  const set = (tags: string) => edit(call('setLoom', { tags }));
  const enter = () => {
    const miss = addressMiss(text);
    setWrong(miss !== null);
    if (miss === null && text !== address) set(text);
  };
  return (
    <Stack $gap={3}>
      <ScreenOnly>
        <Stack $gap={2}>
          <Checkbox
            isSelected={address !== ''}
            onChange={(on) => {
              setText(on ? location.origin : '');
              set(on ? location.origin : '');
            }}
          >
            Tags with a code for every plug, that open its run on a phone
          </Checkbox>
          {address !== '' && (
            <Address>
              <TextField
                label="Where the phone finds Gonyx"
                value={text}
                maxLength={200}
                onChange={setText}
                onBlur={enter}
                onKeyDown={(event) => event.key === 'Enter' && enter()}
                error={isWrong ? (addressMiss(text) ?? undefined) : undefined}
              />
              <Small>Builds stay on the machine they were made on: take this build’s file to the phone first.</Small>
            </Address>
          )}
        </Stack>
      </ScreenOnly>
      {tags.length > 0 && (
        <>
          <Heading>{plural(tags.length, 'tag')}</Heading>
          <Sheet aria-label="Tags" role="list">
            {tags.map(({ id, name, note, url }) => (
              <Tag key={id} role="listitem">
                <Code text={url} />
                <span>
                  <strong>{name}</strong>
                  <br />
                  {note}
                </span>
              </Tag>
            ))}
          </Sheet>
        </>
      )}
    </Stack>
  );
}

const Address = styled.div`
  max-width: 520px;
`;
const Sheet = styled.div`
  display: flex;
  flex-wrap: wrap;
  gap: ${space[2]};
`;
/** White even at night: a code is read as dark on light. */
const Tag = styled.div`
  display: inline-flex;
  align-items: center;
  gap: 3mm;
  width: 62mm;
  min-height: 27mm;
  padding: 3mm;
  background: #fff;
  color: #000;
  font-size: 3.4mm;
  line-height: 1.2;
  border: 0.2mm solid ${color.rule};
  border-radius: 1mm;
  break-inside: avoid;
`;
