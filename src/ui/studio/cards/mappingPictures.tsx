import type { MappingKind } from '@/core/mapping/schema';

/** How each mapping wraps its sheet, as a small line drawing of 48 × 38. */
export const MAPPING_PICTURES: Record<MappingKind, React.ReactNode> = {
  flat: (
    <>
      <path d="M6 26 22 32 40 22 24 16z" className="face" />
      <path d="M23 4v9m-4-4 4 4 4-4" className="arrow" />
    </>
  ),
  box: (
    <>
      <path d="M10 14 24 8 38 14 24 20z" className="face" />
      <path d="M10 14v13l14 6V20zM38 14v13l-14 6V20z" className="face" />
      <path d="M12 31c6 5 18 5 24 0m-3-1 3 1v3" className="arrow" />
    </>
  ),
  cylinder: (
    <>
      <path d="M12 9v20c0 6 24 6 24 0V9" className="face" />
      <ellipse cx="24" cy="9" rx="12" ry="4" className="face" />
      <path d="M9 20c4 8 26 8 30 0m-4 0 4 0v4" className="arrow" />
    </>
  ),
  sphere: (
    <>
      <circle cx="24" cy="19" r="14" className="face" />
      <path d="M10 19c4 6 24 6 28 0M24 5c-7 5-7 23 0 28" className="face" style={{ fill: 'none' }} />
      <path d="M30 8c5 4 7 9 6 14m-3-2 3 2 3-3" className="arrow" />
    </>
  ),
  fan: (
    <>
      <path d="M6 30a18 18 0 0 1 36 0h-9a9 9 0 0 0-18 0z" className="face" />
      <path d="M24 12v9M11 17l7 6M37 17l-7 6" className="face" />
      <path d="M8 12a24 24 0 0 1 32 0m-4-2 4 2 0-4" className="arrow" />
    </>
  ),
  unroll: (
    <>
      <path d="M8 12v16c8 6 14 4 16 0V12c-2 4-8 6-16 0z" className="face" />
      <path d="M24 12v16l16 3V15z" className="face" />
      <path d="M25 7c6-2 10 0 12 4m1-3-1 3-3-1" className="arrow" />
    </>
  ),
  own: (
    <>
      <path d="M7 9h14v20H7z" className="face" />
      <path d="M7 16h14M7 22h14M14 9v20" className="face" />
      <path d="M29 12 41 9v19l-12 4z" className="face" />
      <path d="M22 19h5m-2-3 3 3-3 3" className="arrow" />
    </>
  ),
};
