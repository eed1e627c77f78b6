/** Drawings that the demo's library keeps as modules, as an artist would bring them in. */
export const DEMO_DRAWINGS: { id: string; name: string; file: string; text: string }[] = [
  {
    id: 'tide-star',
    name: 'Tide star',
    file: 'tide-star.svg',
    text: `<svg xmlns="http://www.w3.org/2000/svg" width="300mm" height="300mm" viewBox="0 0 300 300">
      <path class="star" d="M150 30L172 128L270 150L172 172L150 270L128 172L30 150L128 128Z"/>
      <defs><path id="field" d="M0 0H300L172 128L150 30L128 128Z"/></defs>
      <g class="field">
        <use href="#field"/><use href="#field" transform="rotate(90 150 150)"/>
        <use href="#field" transform="rotate(180 150 150)"/><use href="#field" transform="rotate(270 150 150)"/>
      </g></svg>`,
  },
  {
    id: 'pebble-run',
    name: 'Pebble run',
    file: 'pebble-run.svg',
    text: `<svg xmlns="http://www.w3.org/2000/svg" width="240mm" height="160mm" viewBox="0 0 240 160">
      <ellipse class="large" cx="44" cy="38" rx="39" ry="27"/>
      <ellipse class="small" cx="113" cy="27" rx="24" ry="19"/>
      <ellipse class="large" cx="187" cy="37" rx="43" ry="29"/>
      <ellipse class="small" cx="113" cy="69" rx="29" ry="17"/>
      <ellipse class="small" cx="28" cy="93" rx="24" ry="21"/>
      <ellipse class="large" cx="89" cy="120" rx="34" ry="30"/>
      <ellipse class="large" cx="165" cy="107" rx="36" ry="32"/>
      <ellipse class="small" cx="218" cy="85" rx="18" ry="14"/>
      <ellipse class="small" cx="31" cy="139" rx="20" ry="18"/>
      <ellipse class="small" cx="221" cy="130" rx="16" ry="24"/>
    </svg>`,
  },
];
