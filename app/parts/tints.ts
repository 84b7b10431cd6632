import { useEffect, useState } from 'react';

/** Colours of the theme as a canvas needs them. */
export interface Tints {
  ink: string;
  soft: string;
  rule: string;
  selection: string;
  pencil: string;
  proved: string;
  stop: string;
  font: string;
}

function tintsOf(): Tints {
  const style = getComputedStyle(document.documentElement);
  const of = (name: string) => style.getPropertyValue(`--${name}`).trim();
  return {
    ink: of('ink'),
    soft: of('soft'),
    rule: of('rule'),
    selection: of('selection'),
    pencil: of('pencil'),
    proved: of('proved'),
    stop: of('stop'),
    font: getComputedStyle(document.body).fontFamily,
  };
}

/** The theme's colours as Chart.js needs them, followed when the theme changes. */
export function useTints(): Tints {
  const [tints, setTints] = useState(tintsOf);
  useEffect(() => {
    const again = () => setTints(tintsOf());
    const observer = new MutationObserver(again);
    observer.observe(document.documentElement, { attributes: true, attributeFilter: ['data-theme'] });
    const scheme = window.matchMedia('(prefers-color-scheme: dark)');
    scheme.addEventListener('change', again);
    return () => {
      observer.disconnect();
      scheme.removeEventListener('change', again);
    };
  }, []);
  return tints;
}
