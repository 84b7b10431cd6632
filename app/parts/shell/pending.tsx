import { useEffect, useState } from 'react';
import { useNavigation } from 'react-router';
import { keyframes, styled } from 'styled-components';
import { color } from '../../ui/theme';
import { VisuallyHidden } from '../../ui/text';
import { sheetAt } from '../sheets';

/** A change of sheet that is as quick as this says nothing. */
const SLOW_MILLISECONDS = 150;

/** Says that a sheet is on its way when it takes longer than a moment. */
export function Pending() {
  const { state, location } = useNavigation();
  const goal = state === 'loading' ? location.pathname : null;
  const [slow, setSlow] = useState<string | null>(null);
  useEffect(() => {
    if (goal === null) return;
    const timer = setTimeout(() => setSlow(goal), SLOW_MILLISECONDS);
    return () => clearTimeout(timer);
  }, [goal]);
  const shown = goal !== null && slow === goal;
  return (
    <div role="status">
      {shown && (
        <>
          <Bar aria-hidden />
          <VisuallyHidden>Opening {goal.startsWith('/build/') ? sheetAt(goal).title : 'the garage'}…</VisuallyHidden>
        </>
      )}
    </div>
  );
}

const along = keyframes`
  from { translate: -60% 0; }
  to { translate: 160% 0; }
`;
const Bar = styled.span`
  position: absolute;
  inset: 0 0 auto;
  height: 3px;
  overflow: hidden;
  z-index: 5;
  &::after {
    content: '';
    position: absolute;
    inset: 0 40% 0 0;
    background: ${color.pencil};
    animation: ${along} 0.9s linear infinite;
  }
`;
