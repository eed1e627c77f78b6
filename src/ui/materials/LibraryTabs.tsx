'use client';

import Link from 'next/link';
import { useParams, usePathname } from 'next/navigation';

const SHELVES = [
  ['materials', 'Materials'],
  ['modules', 'Modules'],
] as const;

/** What of the library is looked at. */
export function LibraryTabs() {
  const { id } = useParams<{ id: string }>();
  const path = usePathname();
  return (
    <nav aria-label="Library" className="mr-2 flex">
      {SHELVES.map(([shelf, label]) => (
        <Link
          key={shelf}
          href={`/projects/${id}/${shelf}`}
          className="tool"
          data-on={path.endsWith(`/${shelf}`)}
          aria-current={path.endsWith(`/${shelf}`) ? 'page' : undefined}
        >
          {label}
        </Link>
      ))}
    </nav>
  );
}
