'use client';

import { SunMoon } from 'lucide-react';

/** Day or night by hand; without a choice the system's setting rules. */
export function ThemeSwitch() {
  const flip = () => {
    const root = document.documentElement;
    const system = matchMedia('(prefers-color-scheme: dark)').matches ? 'night' : 'day';
    const next = (root.dataset.theme ?? system) === 'night' ? 'day' : 'night';
    root.dataset.theme = next;
    localStorage.setItem('jute-grid-theme', next);
    window.dispatchEvent(new Event('jute-grid-theme'));
  };
  return (
    <button type="button" className="tool" onClick={flip} title="Day or night" aria-label="Day or night">
      <SunMoon size={15} />
    </button>
  );
}
