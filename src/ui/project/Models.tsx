'use client';

import { FileUp, ImagePlus, RefreshCw, Trash2 } from 'lucide-react';
import { useRef } from 'react';
import { toast } from 'sonner';
import { useLibraryRefresh } from '../materials/useLibrary';
import { messageOf, sendFiles } from '../shared/api';
import { ForTheDesigner } from './ForTheDesigner';
import { usePanels } from './panels';
import { useProject } from './projectStore';

/** The models of the project: what was repaired, which pictures are still missing, bring in more. */
export function Models({ close }: { close: () => void }) {
  const { project, revision, run, adopt } = useProject();
  const { toggle, revise } = usePanels();
  const refresh = useLibraryRefresh();
  const input = useRef<HTMLInputElement>(null);
  const target = useRef('');
  if (!project) return null;

  async function bring(files: File[]) {
    try {
      const result = await sendFiles('POST /api/projects/{id}/models/{model}/pictures', {
        id: project!.id,
        model: target.current!,
        files,
        fields: { baseRevision: String(revision) },
      });
      adopt(result);
      void refresh();
      toast.success(`Found ${result.found.join(', ')}`, {
        description: result.stillMissing.length ? `Still missing: ${result.stillMissing.join(', ')}` : undefined,
      });
    } catch (e) {
      toast.error('No picture was taken', { description: messageOf(e) });
    }
  }

  return (
    <section className="hair flex flex-col gap-1 border-t pt-2">
      <h2 className="quiet text-2xs">Models</h2>
      {Object.values(project.models).map((m) => (
        <div key={m.id}>
          <div className="flex items-center gap-1">
            <details className="min-w-0 flex-1">
              <summary className="truncate">{m.name}</summary>
              <ul className="quiet list-disc pl-4 text-2xs">
                {m.remarks.map((r) => (
                  <li key={r.text}>
                    {r.kind}: {r.text}
                  </li>
                ))}
              </ul>
            </details>
            <button
              type="button"
              className="tool px-1"
              aria-label={`Bring ${m.name} in again`}
              title="Bring a changed file in again; what is laid stays"
              onClick={() => (close(), revise(m.id))}
            >
              <RefreshCw size={13} />
            </button>
            <button
              type="button"
              className="tool px-1"
              aria-label={`Take out ${m.name}`}
              title="Take it out (undo brings it back)"
              onClick={() => run([{ kind: 'removeModel', model: m.id }])}
            >
              <Trash2 size={13} />
            </button>
          </div>
          {m.missingPictures.length > 0 && (
            <button
              type="button"
              className="tool tool-line w-full"
              title={m.missingPictures.join('\n')}
              onClick={() => ((target.current = m.id), input.current?.click())}
            >
              <ImagePlus size={13} /> Bring {m.missingPictures.length} missing picture
              {m.missingPictures.length > 1 ? 's' : ''}
            </button>
          )}
        </div>
      ))}
      <ForTheDesigner project={project} />
      <input
        ref={input}
        type="file"
        multiple
        accept=".png,.jpg,.jpeg,.webp,.tif,.tiff,.tga,.bmp"
        className="hidden"
        aria-label="Missing pictures"
        onChange={(e) => void bring([...(e.target.files ?? [])])}
      />
      <button type="button" className="tool tool-line w-full" onClick={() => (close(), toggle('import'))}>
        <FileUp size={13} /> Bring another model in
      </button>
    </section>
  );
}
