'use client';

import { useEffect, useState } from 'react';
import type { SheetColours } from '../studio/sheet/drawSheet';

function read(): SheetColours {
  const style = getComputedStyle(document.documentElement);
  const of = (name: string) => style.getPropertyValue(name).trim();
  const ink = of('--color-base-content');
  return {
    paper: of('--color-base-100'),
    cloth: of('--color-base-200'),
    line: of('--color-base-300'),
    ink,
    quiet: `color-mix(in srgb, ${ink} 65%, transparent)`,
    thread: of('--color-primary'),
    bare: of('--color-base-300'),
  };
}

const UNKNOWN: SheetColours = {
  paper: '#fffdf8',
  cloth: '#f4efe4',
  line: '#d9cfbb',
  ink: '#1e2a3a',
  quiet: '#5b6470',
  thread: '#a83a2e',
  bare: '#d9cfbb',
};

/** The theme's colours for what is drawn and not styled; follows day and night. */
export function useThemeColours(): SheetColours {
  const [colours, setColours] = useState(UNKNOWN);
  useEffect(() => {
    const update = () => setColours(read());
    update();
    const media = matchMedia('(prefers-color-scheme: dark)');
    media.addEventListener('change', update);
    window.addEventListener('jute-grid-theme', update);
    return () => {
      media.removeEventListener('change', update);
      window.removeEventListener('jute-grid-theme', update);
    };
  }, []);
  return colours;
}
