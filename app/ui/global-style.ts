import { createGlobalStyle, css } from 'styled-components';

const paper = css`
  color-scheme: light;
  --paper: #f2eee4;
  --sheet: #fbf9f3;
  --raised: #f1ede2;
  --ink: #22262b;
  --soft: #5c6066;
  --rule: #cfc8b8;
  --pencil: #b83c0b;
  --selection: #1f5a85;
  --selection-wash: #dfe9f0;
  --proved: #35693f;
  --proved-wash: #dfeadd;
  --fix: #7f5800;
  --stop: #a61e1e;
  --on-ink: #fbf9f3;
  --tint-sky: #dbe6ee;
  --tint-rose: #f3ded1;
  --tint-olive: #e4e3cc;
  --tint-mint: #dce7d9;
  --tint-lilac: #e5dcec;
  --tint-blush: #f0d9da;
  --tint-slate: #dcdcda;
  --tint-teal: #d5e7e6;
  --tint-amber: #f4e3b8;
  --tint-none: #fbf9f3;
  --hatch: rgb(34 38 43 / 0.16);
  --housing: #ece5d8;
`;

const night = css`
  color-scheme: dark;
  --paper: #121417;
  --sheet: #1b1e23;
  --raised: #262a31;
  --ink: #e9e5da;
  --soft: #a5a6a3;
  --rule: #3b3f46;
  --pencil: #ff8a4c;
  --selection: #7db6ea;
  --selection-wash: #20364a;
  --proved: #84cc95;
  --proved-wash: #1f3a2a;
  --fix: #e3b04b;
  --stop: #ff7d78;
  --on-ink: #1b1e23;
  --tint-sky: #24384a;
  --tint-rose: #4a3226;
  --tint-olive: #3a3a22;
  --tint-mint: #263a2a;
  --tint-lilac: #392c45;
  --tint-blush: #47292c;
  --tint-slate: #34373b;
  --tint-teal: #1f3c3c;
  --tint-amber: #4a3c1a;
  --tint-none: #1b1e23;
  --hatch: rgb(233 229 218 / 0.2);
  --housing: #23272d;
`;

/** Paper by day, the night garage by choice or by the system; print is always paper. */
export const GlobalStyle = createGlobalStyle`
  :root {
    ${paper}
    --space-1: 4px;
    --space-2: 8px;
    --space-3: 12px;
    --space-4: 16px;
    --space-5: 24px;
    --space-6: 40px;
    --type-small: 13px;
    --type-body: 15px;
    --type-lead: 17px;
    --type-title: 27px;
    --type-figure: 44px;
    --font-text: 'Brackets', 'B612', 'Fira Sans', system-ui, sans-serif;
    --font-mono: 'Brackets', 'B612 Mono', 'Fira Sans', ui-monospace, monospace;
    --radius: 6px;
    --hair: 1px;
    --line: 1.5px;
    --target: 44px;
    --measure: 62ch;
    --spine: 80px;
  }
  @media (prefers-color-scheme: dark) { :root:not([data-theme='paper']) { ${night} } }
  :root[data-theme='night'] { ${night} }
  @media print { :root, :root[data-theme='night'] { ${paper} --paper: #fff; --sheet: #fff; --type-body: 12px; --type-small: 11px; --type-lead: 13px; } }

  *, *::before, *::after { box-sizing: border-box; }
  html { -webkit-text-size-adjust: 100%; }
  body {
    print-color-adjust: exact;
    -webkit-print-color-adjust: exact;
    margin: 0;
    background: var(--paper);
    color: var(--ink);
    font: 400 var(--type-body) / 1.45 var(--font-text);
    font-variant-numeric: tabular-nums;
    text-rendering: optimizeLegibility;
  }
  h1, h2, h3, p, ul, ol, dl, dd, figure { margin: 0; padding: 0; }
  ul, ol { list-style: none; }
  h1, h2, h3 { font-weight: 400; line-height: 1.2; }
  a { color: inherit; text-underline-offset: 3px; }
  button, input, select, textarea { font: inherit; color: inherit; }
  :focus-visible, [data-focus-visible] { outline: 2.5px solid var(--selection); outline-offset: 2px; }
  @media (prefers-reduced-motion: reduce) { *, *::before, *::after { animation: none !important; transition: none !important; } }
`;
