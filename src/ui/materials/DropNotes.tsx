'use client';

import { X } from 'lucide-react';
import type { useTakePictures } from './useTakePictures';

type Taking = ReturnType<typeof useTakePictures>;

/** What there is to say of pictures that came, and what has to be asked before they do. */
export function DropNotes({ asked, answer, remarks, clearRemarks }: Taking) {
  return (
    <>
      {asked && (
        <div className="hair flex flex-wrap items-center gap-2 border-b bg-base-100 px-3 py-2" role="status">
          <span className="asks">
            The library has {asked.names.map((n) => `“${n}”`).join(', ')} already. What are these pictures?
          </span>
          <button type="button" className="tool tool-main" onClick={() => answer('version')}>
            A new version
          </button>
          <button type="button" className="tool tool-line" onClick={() => answer('another')}>
            Another material
          </button>
          <button type="button" className="tool" onClick={() => answer(null)}>
            Leave them out
          </button>
        </div>
      )}
      {remarks.length > 0 && (
        <div className="hair flex items-start gap-2 border-b bg-base-100 px-3 py-2 text-2xs" role="status">
          <ul className="max-h-24 flex-1 list-disc overflow-auto pl-4">
            {remarks.map((r, i) => (
              <li key={i}>
                <strong>{r.file}</strong> {r.text}
              </li>
            ))}
          </ul>
          <button type="button" className="tool px-1" aria-label="Close" onClick={clearRemarks}>
            <X size={13} />
          </button>
        </div>
      )}
    </>
  );
}
