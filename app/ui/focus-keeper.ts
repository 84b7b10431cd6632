import { useEffect } from 'react';

const FOCUSABLE =
  'a[href], button:not([disabled]), input:not([disabled]):not([type="hidden"]), textarea:not([disabled]), select:not([disabled]), [tabindex]:not([tabindex="-1"])';

/** What stood around the element that has the focus: enough to find the place again when it is taken away. */
interface Place {
  readonly element: Element;
  readonly around: readonly {
    readonly node: Element;
    readonly next: Element | null;
    readonly before: Element | null;
  }[];
}

function placeOf(element: Element): Place {
  const around: Place['around'][number][] = [];
  for (let node: Element | null = element; node && node !== document.body; node = node.parentElement)
    around.push({ node, next: node.nextElementSibling, before: node.previousElementSibling });
  return { element, around };
}

const visible = (element: HTMLElement): boolean => element.isConnected && element.getClientRects().length > 0;
const focusableIn = (root: Element | null): HTMLElement[] =>
  root?.isConnected
    ? [
        ...(root.matches(FOCUSABLE) ? [root as HTMLElement] : []),
        ...root.querySelectorAll<HTMLElement>(FOCUSABLE),
      ].filter(visible)
    : [];

/** The nearest thing to stand on: what came after the part that went, else what came before it, else what holds them. */
function nearest({ around }: Place): HTMLElement | null {
  const held = around.findIndex(({ node }) => node.isConnected);
  const gone = around[held - 1] as Place['around'][number] | undefined;
  const [after] = focusableIn(gone?.next ?? null);
  const before = focusableIn(gone?.before ?? null);
  return (
    after ??
    before[before.length - 1] ??
    (held >= 0 ? focusableIn(around[held].node)[0] : undefined) ??
    document.querySelector<HTMLElement>('#work, main')
  );
}

/**
 * Keeps the keyboard's place: when the element that has the focus is taken away by what it did (a row removed, a list made anew),
 * the focus goes to what stands nearest, not to the top of the page. Dialogs, which put it back themselves, come first.
 */
export function useFocusKeeper(): void {
  useEffect(() => {
    let place: Place | null = null;
    let frame = 0;
    const onFocus = (event: FocusEvent) => {
      if (event.target instanceof Element && event.target !== document.body) place = placeOf(event.target);
    };
    const lost = () => document.activeElement === document.body || document.activeElement === null;
    const look = () => {
      if (!place || place.element.isConnected || !lost()) return;
      cancelAnimationFrame(frame);
      frame = requestAnimationFrame(() => {
        frame = requestAnimationFrame(() => {
          if (place && !place.element.isConnected && lost()) nearest(place)?.focus({ preventScroll: true });
        });
      });
    };
    const observer = new MutationObserver(look);
    observer.observe(document.body, { childList: true, subtree: true });
    document.addEventListener('focusin', onFocus);
    return () => {
      cancelAnimationFrame(frame);
      observer.disconnect();
      document.removeEventListener('focusin', onFocus);
    };
  }, []);
}
