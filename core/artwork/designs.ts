/** Drawings of our own to try a job with: file name, what it is, and the drawing. */
export type Design = { key: string; name: string; svg: string };

const sash = `<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 280 60">
<g fill="#1f3a5f"><path d="M6 30C22 6 44 6 60 30C44 54 22 54 6 30ZM220 30C236 6 258 6 274 30C258 54 236 54 220 30Z"/>
<path d="M66 44C92 50 118 14 140 14S188 50 214 44L212 50C184 58 160 22 140 22S96 58 68 50Z"/></g>
<g fill="#b3202c"><path d="M140 27l4.1 8.4 9.2 1.3-6.7 6.5 1.6 9.2-8.2-4.3-8.2 4.3 1.6-9.2-6.7-6.5 9.2-1.3z"/>
<circle cx="33" cy="30" r="8"/><circle cx="247" cy="30" r="8"/></g></svg>`;

const drum = `<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 200 200">
<path fill="#22262b" fill-rule="evenodd" d="M100 4A96 96 0 1 1 99.9 4ZM100 18A82 82 0 1 0 100.1 18Z"/>
<path fill="#22262b" d="M100 42l14 38 40-6-26 31 26 31-40-6-14 38-14-38-40 6 26-31-26-31 40 6z"/>
<circle fill="#d18a00" cx="100" cy="105" r="18"/></svg>`;

const lantern = `<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 120 180">
<path fill="#20332b" fill-rule="evenodd" d="M48 8h24v10h10v12H38V18h10ZM30 34h60l12 18v88l-12 18H30l-12-18V52ZM36 56v80h20V56ZM64 56v80h20V56ZM26 162h68v10H26Z"/>
<path fill="#20332b" d="M43 120c-5-16 2-22 1-34 7 8 9 24 3 34zM71 120c-5-16 2-22 1-34 7 8 9 24 3 34z"/></svg>`;

const moth = `<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 220 140">
<g fill="#4b2e5a"><path d="M104 40C70 2 22 8 8 24c2 30 34 42 60 40-26 8-32 30-22 48 24 10 48-8 58-44ZM116 40c34-38 82-32 96-16-2 30-34 42-60 40 26 8 32 30 22 48-24 10-48-8-58-44Z"/>
<ellipse cx="110" cy="74" rx="6" ry="40"/></g>
<g fill="#d7b46a"><circle cx="52" cy="36" r="11"/><circle cx="168" cy="36" r="11"/><circle cx="70" cy="92" r="7"/><circle cx="150" cy="92" r="7"/></g>
<path fill="none" stroke="#4b2e5a" stroke-width="3" stroke-linecap="round" d="M107 36C102 20 94 12 84 8M113 36c5-16 13-24 23-28"/></svg>`;

/** Four drawings of our own. */
export const designs: readonly Design[] = [
  { key: 'sash', name: 'Sash with stars', svg: sash },
  { key: 'drum', name: 'Drum star', svg: drum },
  { key: 'lantern', name: 'Lantern', svg: lantern },
  { key: 'moth', name: 'Moth', svg: moth },
];
