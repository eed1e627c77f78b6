import { legendOf, type Measure } from './measures';

/** What the colours of an overlay mean. */
export function Legend({ measure }: { measure: Measure }) {
  const { colours, low, middle, high } = legendOf(measure);
  return (
    <div className="card-panel pointer-events-none absolute right-2 bottom-2 w-72 px-2 py-1 text-2xs">
      <div className="h-2 rounded-[3px]" style={{ background: `linear-gradient(to right, ${colours.join(',')})` }} />
      <p className="num flex justify-between">
        <span>{low}</span>
        <span>{middle}</span>
        <span>{high}</span>
      </p>
    </div>
  );
}

/** Which way north lies in the picture. */
export function Compass({ deg }: { deg: number }) {
  return (
    <svg
      viewBox="-20 -20 40 40"
      role="img"
      aria-label="North"
      className="pointer-events-none absolute top-2 right-2 h-10 w-10"
      style={{ transform: `rotate(${deg}deg)` }}
    >
      <circle r="17" fill="var(--color-base-100)" opacity="0.72" />
      <circle r="17" fill="none" stroke="var(--color-base-300)" />
      <path d="M0-12 4.5 3H-4.5z" fill="var(--color-primary)" />
      <path d="M0 12 4.5 3H-4.5z" fill="var(--color-base-content)" opacity="0.4" />
      <text y="-12.5" textAnchor="middle" fontSize="6" fill="var(--color-base-content)">
        N
      </text>
    </svg>
  );
}
