import { createContext, useContext, useEffect, useLayoutEffect, useRef, type FocusEvent, type RefObject } from 'react';

/** Keeps what is being typed until it is entered, so that a reload in the middle of a word loses nothing. */
export interface Typing {
  /** A name of its own for a field on show; `release` gives it back. */
  claim(label: string): string;
  release(key: string, entered: boolean): void;
  /** What was typed into the field and never entered; null when there is none, or the field shows something else by now. */
  kept(key: string, shown: string): string | null;
  type(key: string, shown: string, text: string): void;
  /** The text is entered, or was taken back. */
  drop(key: string): void;
  /** The field was left: if that entered its text, it need not be kept. */
  left(key: string): void;
  /** The field shows something else: its text was entered or taken back, and is dropped once that is on the device. */
  settle(key: string): Promise<void>;
  /** Something typed was brought back into a field. */
  broughtBack(label: string): void;
}

export const TypingContext = createContext<Typing | null>(null);
/** Tells fields of the same name apart: the id of the row, the test or the question they belong to. */
export const TypingScope = createContext('');

/** Types a text into a box as the person did: whatever listens to its keys hears it. */
function typeInto(box: HTMLInputElement | HTMLTextAreaElement, text: string): void {
  const kind = box instanceof HTMLTextAreaElement ? HTMLTextAreaElement : HTMLInputElement;
  Object.getOwnPropertyDescriptor(kind.prototype, 'value')!.set!.call(box, text);
  box.dispatchEvent(new Event('input', { bubbles: true }));
  box.focus();
}

/**
 * Ties a field to the keeper. `shown` is what the field shows now, `box` what it is typed into: a kept text is put back there
 * as if it had just been typed, and not entered; the field has the focus, and leaving it enters it as ever. Answers handlers
 * for each key and for leaving the field. Without a keeper, or with `passing`, nothing is kept.
 */
export function useTyped(
  label: string,
  shown: string,
  box: RefObject<HTMLInputElement | HTMLTextAreaElement | null>,
  passing = false,
): { onText: (text: string) => void; onLeave: () => void } {
  const context = useContext(TypingContext);
  const keeper = passing ? null : context;
  const scope = useContext(TypingScope);
  const key = useRef<string | null>(null);
  /** What stood in the field when the typing began, and what was typed last. */
  const typed = useRef<{ before: string; text: string } | null>(null);
  const now = useRef(shown);
  useLayoutEffect(() => {
    now.current = shown;
  });
  useEffect(() => {
    if (!keeper) return;
    const own = keeper.claim(`${scope}|${label}`);
    key.current = own;
    const text = keeper.kept(own, now.current);
    if (text !== null && box.current) {
      typed.current = { before: now.current, text };
      typeInto(box.current, text);
      keeper.broughtBack(label);
    }
    return () => {
      keeper.release(own, typed.current === null);
      key.current = null;
      typed.current = null;
    };
  }, [keeper, scope, label, box]);
  const last = useRef(shown);
  useEffect(() => {
    if (last.current === shown) return;
    last.current = shown;
    // Emptied by its form, undone, or changed from elsewhere: what was typed is not what stands there any more.
    if (!typed.current || shown === typed.current.text) return;
    if (key.current) void keeper?.settle(key.current);
    typed.current = null;
  }, [keeper, shown]);
  return {
    onText: (text) => {
      if (!keeper || !key.current) return;
      const before = typed.current?.before ?? shown;
      typed.current = { before, text };
      if (text === before) keeper.drop(key.current);
      else keeper.type(key.current, before, text);
    },
    onLeave: () => {
      if (keeper && key.current && typed.current) keeper.left(key.current);
    },
  };
}

interface TextHandlers {
  readonly value?: string;
  readonly onChange?: (text: string) => void;
  readonly onBlur?: (event: FocusEvent<HTMLInputElement>) => void;
}

/** The handlers of a text field, with the keeper listening. */
export function useTypedText(
  label: string,
  { value = '', onChange, onBlur }: TextHandlers,
  box: RefObject<HTMLInputElement | HTMLTextAreaElement | null>,
  passing?: boolean,
): Required<Pick<TextHandlers, 'onChange' | 'onBlur'>> {
  const typed = useTyped(label, value, box, passing);
  return {
    onChange: (text) => {
      typed.onText(text);
      onChange?.(text);
    },
    onBlur: (event) => {
      onBlur?.(event);
      typed.onLeave();
    },
  };
}
