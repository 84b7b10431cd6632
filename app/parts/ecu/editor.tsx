import { useState } from 'react';
import { Tab, TabList, TabPanel, Tabs } from 'react-aria-components';
import { styled } from 'styled-components';
import { definitionOf, issuesOf, type DraftIssue, type EcuDraft } from '~/core/ecu/draft';
import type { EcuDefinition } from '~/core/ecu/ecu';
import { plural } from '~/core/units/format';
import type { Units } from '~/core/units/units';
import { Button } from '../../ui/button';
import { Callout, Heading, Small, Stack } from '../../ui/text';
import { TextField } from '../../ui/text-field';
import { at, color, shape, space } from '../../ui/theme';
import { Faces } from './faces';
import { Paste } from './paste';
import { SourceText } from './source-text';
import { PinGrid } from './pin-grid';
import { Ties } from './ties';

type TabId = 'paste' | 'pins' | 'faces' | 'ties';

/** An ECU definition in the making: paste, set right, draw, tie together, save. What stands in the way is always in sight. */
export function EcuEditor({
  start,
  units,
  onDraft,
  onSave,
}: {
  start: EcuDraft;
  units: Units;
  onDraft: (draft: EcuDraft) => void;
  onSave: (ecu: EcuDefinition) => void;
}) {
  const [draft, setDraft] = useState(start);
  const [tab, setTab] = useState<TabId>(start.pins.length === 0 ? 'paste' : 'pins');
  const [chosen, setChosen] = useState<ReadonlySet<string>>(new Set());
  const change = (next: EcuDraft) => {
    setDraft(next);
    onDraft(next);
  };
  const issues = issuesOf(draft);
  const definition = definitionOf(draft);
  const look = (issue: DraftIssue) => {
    if (issue.pins.length === 0) return;
    setChosen(new Set(issue.pins));
    setTab('pins');
  };
  return (
    <Frame>
      <Stack $gap={4}>
        <div style={{ maxWidth: 360 }}>
          <TextField
            label="Name of the ECU"
            value={draft.model}
            maxLength={60}
            onChange={(model) => change({ ...draft, model })}
          />
        </div>
        <Steps selectedKey={tab} onSelectionChange={(key) => setTab(key as TabId)}>
          <TabRow aria-label="Steps of the definition">
            <OneTab id="paste">Paste</OneTab>
            <OneTab id="pins">Pins {draft.pins.length > 0 && `(${draft.pins.length})`}</OneTab>
            <OneTab id="faces">Faces</OneTab>
            <OneTab id="ties">Ties and figures</OneTab>
          </TabRow>
          <Panel id="paste">
            <Paste
              draft={draft}
              onTake={(next) => {
                change(next);
                setTab('pins');
              }}
            />
          </Panel>
          <Panel id="pins">
            <Beside data-source={draft.source !== ''}>
              {draft.source !== '' && <SourceText source={draft.source} chosen={chosen} onChoose={setChosen} />}
              <PinGrid draft={draft} chosen={chosen} onChoose={setChosen} onChange={change} />
            </Beside>
          </Panel>
          <Panel id="faces">
            <Faces
              draft={draft}
              units={units}
              onChange={change}
              onLook={(pinId) => {
                setChosen(new Set([pinId]));
                setTab('pins');
              }}
            />
          </Panel>
          <Panel id="ties">
            <Ties draft={draft} units={units} onChange={change} />
          </Panel>
        </Steps>
      </Stack>
      <Side aria-label="What stands in the way">
        <Heading>
          {issues.length === 0 ? 'Nothing stands in the way' : `${plural(issues.length, 'thing')} to look at`}
        </Heading>
        {issues.map((issue) => (
          <Callout key={issue.sentence} $tone={issue.severity}>
            <Small>{issue.severity}</Small>
            <span>{issue.sentence}</span>
            {issue.pins.length > 0 && (
              <Button weight="quiet" onPress={() => look(issue)}>
                Show {issue.pins.length === 1 ? 'it' : 'them'}
              </Button>
            )}
          </Callout>
        ))}
        <Button
          weight="act"
          isDisabled={!definition.ok}
          onPress={() => {
            if (definition.ok) onSave(definition.value);
          }}
        >
          Save to the library
        </Button>
        <Small>The draft is kept on this device as you work.</Small>
      </Side>
    </Frame>
  );
}

const Frame = styled.div`
  display: grid;
  grid-template-columns: minmax(0, 1fr) 240px;
  gap: ${space[4]};
  align-items: start;
  ${at.tablet} {
    grid-template-columns: minmax(0, 1fr);
  }
`;
const Beside = styled.div`
  display: grid;
  gap: ${space[4]};
  &[data-source='true'] {
    grid-template-columns: minmax(180px, 24%) minmax(0, 1fr);
  }
  ${at.tablet} {
    &[data-source='true'] {
      grid-template-columns: minmax(0, 1fr);
    }
  }
`;
const Steps = styled(Tabs)`
  outline: none;
`;
const TabRow = styled(TabList)`
  display: flex;
  flex-wrap: wrap;
  gap: 0 ${space[5]};
  border-bottom: ${shape.hair} solid ${color.rule};
`;
const OneTab = styled(Tab)`
  padding: ${space[1]} 2px;
  min-height: 40px;
  display: inline-flex;
  align-items: center;
  color: ${color.soft};
  border-bottom: 3px solid transparent;
  cursor: pointer;
  &[data-selected] {
    color: ${color.ink};
    font-weight: 700;
    border-bottom-color: ${color.pencil};
  }
  &[data-focus-visible] {
    outline: 2.5px solid ${color.selection};
  }
`;
const Panel = styled(TabPanel)`
  padding-top: ${space[4]};
  outline: none;
`;
const Side = styled.aside`
  display: grid;
  gap: ${space[3]};
  position: sticky;
  top: ${space[4]};
  align-content: start;
  max-height: calc(100dvh - 40px);
  overflow: auto;
  ${at.tablet} {
    position: static;
    max-height: none;
  }
`;
