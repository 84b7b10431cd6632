import { useCallback, useEffect, useMemo, useRef, useState, type KeyboardEvent, type PointerEvent } from 'react';
import { styled } from 'styled-components';
import { endOf, startOf } from '~/core/trigger/capture/capture';
import type { Loss } from '~/core/trigger/decoder';
import type { BenchView } from '../../../workers/trigger.worker';
import { Button } from '../../../ui/button';
import { Checkbox, Segmented } from '../../../ui/choice';
import { Kbd, Row, Small } from '../../../ui/text';
import { at, color, shape, space } from '../../../ui/theme';
import { axisOf, drawScope, type Inks, type Overlay, type ScopeSpan } from './scope-draw';

const HEIGHT = 236;

/** Whole extent of the capture on an axis. */
function extentOf(view: BenchView, axis: ScopeSpan['axis']): ScopeSpan {
  if (axis === 'time') return { from: startOf(view.capture), to: endOf(view.capture), axis };
  const known = [...view.reading.match.degrees].filter((one) => !Number.isNaN(one));
  return { from: known[0] ?? 0, to: known[known.length - 1] ?? 1, axis };
}

/** Crank and cam as recorded: pan by dragging or arrows, zoom by wheel or plus and minus, however many samples there are. */
export function Scope({
  view,
  losses,
  overlays,
}: {
  view: BenchView;
  losses: readonly Loss[];
  overlays: readonly Overlay[];
}) {
  const canvas = useRef<HTMLCanvasElement>(null);
  const [axis, setAxis] = useState<ScopeSpan['axis']>('time');
  const [ghost, setGhost] = useState(true);
  const [events, setEvents] = useState(true);
  const [width, setWidth] = useState(0);
  const [theme, setTheme] = useState(0);
  const whole = useMemo(() => extentOf(view, axis), [view, axis]);
  const [chosen, setChosen] = useState<{ view: BenchView; span: ScopeSpan } | null>(null);
  // At first about two turns: enough to see the gap, few enough to see the teeth.
  const first = useMemo((): ScopeSpan => {
    const { rpm } = view.reading.match;
    const turns = axis === 'angle' ? 900 : 150 / Math.max(1, rpm.mean);
    const middle = whole.from + (whole.to - whole.from) * 0.4;
    return { from: middle, to: Math.min(whole.to, middle + turns), axis };
  }, [view, axis, whole]);
  const span = chosen?.view === view && chosen.span.axis === axis ? chosen.span : first;

  const show = useCallback(
    (from: number, to: number) => {
      const least = (whole.to - whole.from) * 1e-5;
      const long = Math.min(whole.to - whole.from, Math.max(least, to - from));
      const start = Math.min(Math.max(whole.from, from), whole.to - long);
      setChosen({ view, span: { from: start, to: start + long, axis } });
    },
    [view, whole, axis],
  );
  const zoom = useCallback(
    (factor: number, about = 0.5) => {
      const long = span.to - span.from;
      const fixed = span.from + about * long;
      show(fixed - about * long * factor, fixed + (1 - about) * long * factor);
    },
    [span, show],
  );
  const pan = (share: number) =>
    show(span.from + share * (span.to - span.from), span.to + share * (span.to - span.from));

  useEffect(() => {
    const element = canvas.current;
    if (!element) return;
    const sized = new ResizeObserver(([entry]) => setWidth(Math.round(entry.contentRect.width)));
    sized.observe(element);
    const themed = new MutationObserver(() => setTheme((now) => now + 1));
    themed.observe(document.documentElement, { attributes: true, attributeFilter: ['data-theme'] });
    const dark = window.matchMedia('(prefers-color-scheme: dark)');
    const changed = () => setTheme((now) => now + 1);
    dark.addEventListener('change', changed);
    return () => {
      sized.disconnect();
      themed.disconnect();
      dark.removeEventListener('change', changed);
    };
  }, []);

  useEffect(() => {
    const element = canvas.current;
    const pen = element?.getContext('2d');
    if (!element || !pen || width === 0) return;
    const ratio = window.devicePixelRatio || 1;
    element.width = width * ratio;
    element.height = HEIGHT * ratio;
    pen.setTransform(ratio, 0, 0, ratio, 0, 0);
    const style = getComputedStyle(element);
    const of = (name: string) => style.getPropertyValue(`--${name}`).trim();
    const inks: Inks = {
      ink: of('ink'),
      ground: of('raised'),
      soft: of('soft'),
      rule: of('rule'),
      crank: of('selection'),
      cam: of('fix'),
      gap: of('pencil'),
      loss: of('stop'),
      tdc: of('proved'),
      font: style.fontFamily,
    };
    drawScope(pen, { width, height: HEIGHT }, view, span, inks, { ghost, overlays: events ? overlays : [], losses });
  }, [view, span, width, ghost, events, overlays, losses, theme]);

  // The wheel zooms instead of scrolling the page: a listener of our own, for React's are passive.
  useEffect(() => {
    const element = canvas.current;
    if (!element) return;
    const onWheel = (event: WheelEvent) => {
      event.preventDefault();
      const box = element.getBoundingClientRect();
      zoom(event.deltaY > 0 ? 1.25 : 0.8, (event.clientX - box.left) / box.width);
    };
    element.addEventListener('wheel', onWheel, { passive: false });
    return () => element.removeEventListener('wheel', onWheel);
  }, [zoom]);

  const drag = useRef<{ x: number; span: ScopeSpan } | null>(null);
  const onPointerDown = (event: PointerEvent<HTMLCanvasElement>) => {
    event.currentTarget.setPointerCapture(event.pointerId);
    drag.current = { x: event.clientX, span };
  };
  const onPointerMove = (event: PointerEvent<HTMLCanvasElement>) => {
    const start = drag.current;
    if (!start) return;
    const moved = ((start.x - event.clientX) / Math.max(1, width)) * (start.span.to - start.span.from);
    show(start.span.from + moved, start.span.to + moved);
  };
  const onKeyDown = (event: KeyboardEvent) => {
    const act: Record<string, () => void> = {
      ArrowLeft: () => pan(-0.2),
      ArrowRight: () => pan(0.2),
      '+': () => zoom(0.6),
      '=': () => zoom(0.6),
      '-': () => zoom(1.6),
      Home: () => show(whole.from, whole.to),
    };
    const found = act[event.key];
    if (!found || event.ctrlKey || event.metaKey || event.altKey) return;
    event.preventDefault();
    found();
  };
  const nextLoss = () => {
    const own = axisOf(view, axis);
    const middle = own.seconds((span.from + span.to) / 2);
    const next = losses.find(({ seconds }) => seconds > middle + 1e-6) ?? losses[0];
    if (!next) return;
    const long = Math.min(span.to - span.from, axis === 'angle' ? 360 : 60 / Math.max(1, view.reading.match.rpm.mean));
    const centre = own.value(next.seconds);
    show(centre - long / 2, centre + long / 2);
  };
  const { match } = view.reading;
  return (
    <div>
      <Tools $gap={3}>
        <Segmented
          label="Axis"
          hideLabel
          choices={[
            { id: 'time', name: 'time' },
            { id: 'angle', name: 'angle' },
          ]}
          value={axis}
          onChange={setAxis}
        />
        <Checkbox isSelected={ghost} onChange={setGhost}>
          ideal
        </Checkbox>
        <Checkbox isSelected={events} onChange={setEvents}>
          plan
        </Checkbox>
        <Button weight="quiet" onPress={() => show(whole.from, whole.to)}>
          Whole
        </Button>
        {losses.length > 0 && (
          <Button weight="quiet" onPress={nextLoss}>
            Next loss
          </Button>
        )}
        <Small>
          <Kbd>←</Kbd> <Kbd>→</Kbd> <Kbd>+</Kbd> <Kbd>−</Kbd>
        </Small>
      </Tools>
      <Screen
        tabIndex={0}
        role="group"
        aria-label={`Scope: ${match.crank.channel.name}${match.cam ? ` and ${match.cam.channel.name}` : ''}, ${losses.length} losses marked. Arrows move, plus and minus zoom.`}
        onKeyDown={onKeyDown}
      >
        <canvas
          ref={canvas}
          aria-hidden
          onPointerDown={onPointerDown}
          onPointerMove={onPointerMove}
          onPointerUp={() => (drag.current = null)}
          onPointerCancel={() => (drag.current = null)}
          onDoubleClick={() => show(whole.from, whole.to)}
        />
      </Screen>
    </div>
  );
}

const Tools = styled(Row)`
  padding-bottom: ${space[1]};
  ${at.print} {
    display: none;
  }
`;
const Screen = styled.div`
  border: ${shape.hair} solid ${color.rule};
  background: ${color.raised};
  &:focus-visible {
    outline: 2.5px solid ${color.selection};
  }
  canvas {
    display: block;
    width: 100%;
    height: ${HEIGHT}px;
    touch-action: pan-y;
    cursor: grab;
  }
  canvas:active {
    cursor: grabbing;
  }
`;
