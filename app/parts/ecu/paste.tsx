import { useDeferredValue, useMemo, useState } from 'react';
import { FileTrigger } from 'react-aria-components';
import { takePinout, type EcuDraft } from '~/core/ecu/draft';
import { readPinout, type ReadPinout } from '~/core/ecu/pinout/read';
import { plural } from '~/core/units/format';
import { Button } from '../../ui/button';
import { Callout, Row, Small, Stack } from '../../ui/text';
import { TextAreaField } from '../../ui/text-area';
import { JoinBlocks } from './blocks';

const signs: Record<ReadPinout['delimiter'], string> = {
  '\t': 'columns parted by tabs',
  '|': 'columns parted by bars',
  ';': 'columns parted by semicolons',
  ',': 'columns parted by commas',
  spaces: 'columns parted by runs of spaces',
  single: 'lines with the cavity at their head',
  found: 'lines that name the cavity somewhere',
  stacked: 'cavities and words on lines of their own',
};

/** A pinout pasted from anywhere, what was understood of it, and then its pins. */
export function Paste({ draft, onTake }: { draft: EcuDraft; onTake: (draft: EcuDraft) => void }) {
  const [text, setText] = useState('');
  const [problem, setProblem] = useState<string | null>(null);
  /** The text as it was pasted, before its blocks were joined. */
  const [before, setBefore] = useState<string | null>(null);
  // The field keeps up with the keys; what is read of a long text follows.
  const settled = useDeferredValue(text);
  const read = useMemo(() => (settled.trim() === '' ? null : readPinout(settled)), [settled]);
  const onFile = async (file: File | undefined) => {
    if (!file) return;
    if (file.size > 2_000_000) {
      setProblem(`${file.name} is larger than 2 MB: it is not a pinout.`);
      return;
    }
    setProblem(null);
    setBefore(null);
    setText(await file.text());
  };
  return (
    <Stack $gap={3}>
      <p>
        Copy the pinout out of the manual or the spreadsheet and paste it here: cavity, label and function in any order,
        in English or nine other languages, one connector or several, ranges such as A1-A4. Gonyx proposes what each pin
        can be; you set right what is not.
      </p>
      <TextAreaField
        label="The pinout"
        rows={read?.ok ? 7 : 12}
        value={text}
        onChange={(next) => {
          setText(next);
          setBefore(null);
        }}
      />
      <Row>
        <FileTrigger
          acceptedFileTypes={['.csv', '.tsv', '.txt', 'text/plain', 'text/csv']}
          onSelect={(files) => void onFile(files?.[0])}
        >
          <Button>From a text or CSV file</Button>
        </FileTrigger>
        {before !== null && (
          <Button
            onPress={() => {
              setText(before);
              setBefore(null);
            }}
          >
            Back to the text as pasted
          </Button>
        )}
        <Small>Nothing leaves this device.</Small>
      </Row>
      {problem && <Callout $tone="stop">{problem}</Callout>}
      {read && !read.ok && <Callout $tone="stop">{read.problem.sentence}</Callout>}
      {read?.ok && read.value.blocks && (
        <JoinBlocks
          blocks={read.value.blocks}
          onJoin={(joined) => {
            setBefore(text);
            setText(joined);
          }}
        />
      )}
      {read?.ok && read.value.pins.length > 0 && (
        <Stack $gap={2}>
          {read.value.doubt !== '' && <Callout $tone="stop">{read.value.doubt}</Callout>}
          <Callout $tone={read.value.doubt === '' ? 'proved' : 'fix'}>
            <strong>
              {plural(read.value.pins.length, 'cavity', 'cavities')} on{' '}
              {read.value.connectors.map(({ id, name }) => (name ? `${id} (${name})` : id)).join(', ')}
            </strong>
            <span>
              Read as {signs[read.value.delimiter]}. {read.value.pins.filter((pin) => pin.confidence === 'sure').length}{' '}
              read outright, {read.value.pins.filter((pin) => pin.confidence === 'likely').length} likely,{' '}
              {read.value.pins.filter((pin) => pin.confidence === 'guess').length} guessed,{' '}
              {read.value.pins.filter((pin) => pin.confidence === 'none').length} not understood.
              {read.value.empty.length > 0 && ` Empty: ${read.value.empty.join(', ')}.`}
            </span>
          </Callout>
          {read.value.doubles.length > 0 && (
            <Callout $tone="fix">
              <strong>{plural(read.value.doubles.length, 'cavity is', 'cavities are')} named more than once</strong>
              {read.value.doubles.slice(0, 6).map(({ id, said }) => (
                <Small key={id}>
                  {id}: {said.map(({ line, text: words }) => `line ${line} '${words}'`).join('; ')}
                </Small>
              ))}
              <Small>Both readings are kept, as a guess to look at.</Small>
            </Callout>
          )}
          {read.value.notes.length > 0 && (
            <details>
              <summary>{plural(read.value.notes.length, 'line is', 'lines are')} no cavity</summary>
              <ul>
                {read.value.notes.map(({ line, sentence }) => (
                  <li key={line}>
                    <Small>{sentence}</Small>
                  </li>
                ))}
              </ul>
            </details>
          )}
          <Row>
            <Button
              weight="act"
              onPress={() => {
                onTake(takePinout(draft, read.value, text));
                setText('');
                setBefore(null);
              }}
            >
              {draft.pins.length === 0 ? 'Take these pins' : 'Add these pins'}
            </Button>
            {draft.pins.length > 0 && (
              <Small>Cavities you have looked at stay as they are; the others are read anew.</Small>
            )}
          </Row>
        </Stack>
      )}
    </Stack>
  );
}
