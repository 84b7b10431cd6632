import { keepChoice, keptChoice } from '../../ui/kept-choice';

const COOKIE = 'gonyx-findings';

/** Whether the person keeps the panel of findings beside the work. */
export const isPinned = (): boolean => keptChoice(COOKIE, document.cookie) === 'pinned';
export const keepPinned = (pinned: boolean): void => keepChoice(COOKIE, pinned ? 'pinned' : 'open');
