'use client';

import { FileUp, X } from 'lucide-react';
import { useRef, useState } from 'react';
import { useDropzone } from 'react-dropzone';
import { toast } from 'sonner';
import { usePanels } from '../project/panels';
import { useProject } from '../project/projectStore';
import type { Revision } from '@/api/answers';
import { call, messageOf, sendFiles } from '../shared/api';
import { Select } from '../shared/fields';

const HOW: Record<Revision['parts'][number]['how'], string> = {
  name: 'same name',
  shape: 'same shape',
  place: 'same place',
  new: 'new',
};

/** A changed model: what is matched, new, gone or unsure is seen and settled before anything changes. */
export function RevisionPanel() {
  const { project, revision: base, adopt } = useProject();
  const { model: id, close } = usePanels();
  const model = id ? project?.models[id] : undefined;
  const [upload, setUpload] = useState<string | null>(null);
  const [found, setFound] = useState<Revision | null>(null);
  const [decisions, setDecisions] = useState<Record<number, string | null>>({});
  const [busy, setBusy] = useState<string | null>(null);
  const [error, setError] = useState<string | null>(null);
  const abort = useRef<AbortController | null>(null);

  const ask = (of: string, settled: Record<number, string | null>, apply: boolean) =>
    call('POST /api/projects/{id}/models/{model}/revision', {
      id: project!.id,
      model: id!,
      body: { upload: of, decisions: settled, ...(apply ? { baseRevision: base } : {}) },
    });

  async function working<T>(words: string, work: () => Promise<T>): Promise<T | null> {
    setError(null);
    setBusy(words);
    try {
      return await work();
    } catch (e) {
      if ((e as Error).name !== 'AbortError') setError(messageOf(e));
      return null;
    } finally {
      setBusy(null);
    }
  }

  async function send(files: File[]) {
    if (!files.length) return;
    abort.current = new AbortController();
    const { signal } = abort.current;
    const preview = await working('Reading the file', () => sendFiles('POST /api/uploads', { files, signal }));
    if (!preview) return;
    setUpload(preview.upload);
    setFound(await working('Comparing with what is there', () => ask(preview.upload, {}, false)));
  }

  async function settle(next: number, old: string | null) {
    const settled = { ...decisions, [next]: old };
    setDecisions(settled);
    const again = await working('Comparing again', () => ask(upload!, settled, false));
    if (again) setFound(again);
  }

  async function apply() {
    const done = await working('Bringing it in', () => ask(upload!, decisions, true));
    if (!done?.opened) return;
    adopt(done.opened);
    toast.success(`${done.model.name} was brought in again`, { description: 'What was laid stays. Undo leads back.' });
    close();
  }

  const leave = () => {
    abort.current?.abort();
    if (upload) void call('DELETE /api/uploads/{id}', { id: upload }).catch(() => undefined);
    close();
  };
  const { getRootProps, getInputProps, isDragActive, open } = useDropzone({
    onDrop: (f) => void send(f),
    noClick: true,
    noKeyboard: true,
  });
  if (!project || !model) return null;

  const unsure = found?.parts.filter((p) => p.how === 'place' || p.others.length > 0) ?? [];
  const changed = found?.parts.filter((p) => p.old && !unsure.includes(p) && p.changed.length) ?? [];
  const same = found?.parts.filter((p) => p.old && !unsure.includes(p) && !p.changed.length) ?? [];
  const added = found?.parts.filter((p) => !p.old && !unsure.includes(p)) ?? [];
  return (
    <div {...getRootProps()} className="relative min-h-0 flex-1 overflow-auto bg-base-200 p-8">
      <input {...getInputProps({ 'aria-label': 'Changed model files' })} />
      <button type="button" className="tool absolute top-3 right-3" onClick={leave}>
        <X size={14} /> Back to the studio
      </button>
      <div className="mx-auto max-w-3xl space-y-4">
        <h1 className="text-lg font-semibold">Bring {model.name} in again</h1>
        {!found && (
          <div
            className={
              'flex flex-col items-center gap-3 rounded-[6px] border border-dashed p-10 ' +
              `${isDragActive ? 'border-primary bg-base-100' : 'border-base-content/35'}`
            }
          >
            <FileUp size={26} className="quiet" />
            <p className="quiet text-center">
              Drop the changed file here. Parts are found again by name, shape and place; materials, layouts, pins and
              zones stay with them. Nothing changes before you agree.
            </p>
            <button type="button" className="tool tool-main" disabled={!!busy} onClick={open}>
              Choose files
            </button>
          </div>
        )}
        {busy && (
          <p role="status" className="quiet flex items-center gap-2">
            <progress className="progress progress-primary w-40" /> {busy}…
          </p>
        )}
        {error && (
          <p role="alert" className="text-error">
            {error}
          </p>
        )}
        {found && (
          <>
            {unsure.length > 0 && (
              <Group title={`${unsure.length} to decide`} open>
                {unsure.map((p) => (
                  <li key={p.next} className="grid grid-cols-[1fr_220px] items-center gap-3 py-1">
                    <span>
                      <strong>{p.name}</strong>{' '}
                      <span className="quiet text-2xs">
                        {HOW[p.how]}
                        {p.changed.length ? `, ${p.changed.join(', ')}` : ''}
                      </span>
                    </span>
                    <Select
                      label={`What ${p.name} is`}
                      hideLabel
                      value={p.old ?? ''}
                      options={[
                        ['', 'a new part'],
                        ...[...(p.old ? [p.old] : []), ...p.others].map((o): [string, string] => [
                          o,
                          project.parts[o]?.name ?? o,
                        ]),
                      ]}
                      onChange={(v) => void settle(p.next, v || null)}
                    />
                  </li>
                ))}
              </Group>
            )}
            {changed.length > 0 && (
              <Group title={`${changed.length} changed`} open>
                {changed.map((p) => (
                  <li key={p.next} className="py-0.5">
                    <strong>{p.name}</strong> <span className="quiet text-2xs">{p.changed.join(', ')}</span>
                  </li>
                ))}
              </Group>
            )}
            {found.goneParts.length > 0 && (
              <Group title={`${found.goneParts.length} gone`} open>
                {found.goneParts.map((p) => (
                  <li key={p.id} className="py-0.5">
                    <strong>{p.name}</strong>{' '}
                    <span className="quiet text-2xs">
                      {p.dressed ? `${p.dressed} dressed surfaces go with it` : 'nothing was laid on it'}
                    </span>
                  </li>
                ))}
              </Group>
            )}
            {found.lost.length > 0 && (
              <Group title={`${found.lost.length} could not be found again`} open>
                {found.lost.map((l) => (
                  <li key={l} className="py-0.5">
                    {l}
                  </li>
                ))}
              </Group>
            )}
            {added.length > 0 && (
              <Group title={`${added.length} new`} open>
                {added.map((p) => (
                  <li key={p.next} className="py-0.5">
                    {p.name}
                  </li>
                ))}
              </Group>
            )}
            <Group title={`${same.length} as they were`}>
              {same.map((p) => (
                <li key={p.next} className="quiet py-0.5">
                  {p.name}
                </li>
              ))}
            </Group>
            <div className="flex gap-2">
              <button type="button" className="tool tool-main" disabled={!!busy} onClick={() => void apply()}>
                Take the changed model
              </button>
              <button type="button" className="tool" onClick={leave}>
                Leave it as it is
              </button>
            </div>
          </>
        )}
      </div>
    </div>
  );
}

function Group({ title, open = false, children }: { title: string; open?: boolean; children: React.ReactNode }) {
  return (
    <details className="card-panel px-3 py-2" open={open}>
      <summary className="cursor-pointer font-medium">{title}</summary>
      <ul className="pt-1">{children}</ul>
    </details>
  );
}
