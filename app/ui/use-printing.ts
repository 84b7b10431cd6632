import { useEffect, useState } from 'react';
import { flushSync } from 'react-dom';

/** True while the page is laid out for print: what is drawn only in part on screen is drawn whole. */
export function usePrinting(): boolean {
  const [printing, setPrinting] = useState(false);
  useEffect(() => {
    const media = window.matchMedia('print');
    // The browser takes the page as it stands when this returns.
    const change = () => flushSync(() => setPrinting(media.matches));
    media.addEventListener('change', change);
    return () => media.removeEventListener('change', change);
  }, []);
  return printing;
}
