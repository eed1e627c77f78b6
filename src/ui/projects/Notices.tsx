import { TriangleAlert } from 'lucide-react';

/** What the start found wrong, a line each; however many there are, the projects stay in sight. */
export function Notices({ sentences }: { sentences: string[] }) {
  if (!sentences.length) return null;
  return (
    <div role="alert" className="card-panel mb-4 flex items-start gap-2 border-warning p-3">
      <TriangleAlert size={16} className="mt-0.5 shrink-0 text-warning" />
      {/* a list that scrolls must be reached by keys, too */}
      <ul tabIndex={0} aria-label="What the start found" className="max-h-28 min-w-0 flex-1 space-y-1 overflow-y-auto">
        {sentences.map((sentence) => (
          <li key={sentence}>{sentence}</li>
        ))}
      </ul>
    </div>
  );
}
