'use client';

import { FileUp, X } from 'lucide-react';
import { useRef, useState } from 'react';
import { useDropzone } from 'react-dropzone';
import { toast } from 'sonner';
import { usePanels } from '../project/panels';
import { useProject } from '../project/projectStore';
import type { KnownMaterial, Revision } from '@/api/answers';
import { call, messageOf, sendFiles } from '../shared/api';
import { RevisionReview } from './RevisionReview';
import { Working } from './Working';

/** A changed model: what is matched, new, gone or unsure is seen and settled before anything changes. */
export function RevisionPanel() {
  const { project, revision: base, adopt } = useProject();
  const { model: id, close } = usePanels();
  const model = id ? project?.models[id] : undefined;
  const [upload, setUpload] = useState<string | null>(null);
  const [found, setFound] = useState<Revision | null>(null);
  const [decisions, setDecisions] = useState<Record<number, string | null>>({});
  const [known, setKnown] = useState<KnownMaterial>('library');
  const [busy, setBusy] = useState<string | null>(null);
  const [error, setError] = useState<string | null>(null);
  const abort = useRef<AbortController | null>(null);

  const ask = (of: string, settled: Record<number, string | null>, apply: boolean) =>
    call('POST /api/projects/{id}/models/{model}/revision', {
      id: project!.id,
      model: id!,
      body: { upload: of, decisions: settled, ...(apply ? { baseRevision: base, known } : {}) },
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
    const preview = await working('Reading the file', async () => {
      const sent = await sendFiles('POST /api/uploads', { files, signal });
      // looked at in the unit and up-axis of the model that is there, so that both lie over each other
      const { unitMm, upAxis, creaseDeg, weldMm } = model!;
      const body = { unitMm, upAxis, creaseDeg, weldMm };
      return call('POST /api/uploads/{id}', { id: sent.upload, body }, signal);
    });
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

  if (found && upload)
    return (
      <RevisionReview
        found={found}
        upload={upload}
        busy={busy}
        error={error}
        known={known}
        setKnown={setKnown}
        settle={(next, old) => void settle(next, old)}
        apply={() => void apply()}
        leave={leave}
      />
    );
  return (
    <div {...getRootProps()} className="relative min-h-0 flex-1 overflow-auto bg-base-200 p-8">
      <input {...getInputProps({ 'aria-label': 'Changed model files' })} />
      <button type="button" className="tool absolute top-3 right-3" onClick={leave}>
        <X size={14} /> Back to the studio
      </button>
      <div className="mx-auto max-w-3xl space-y-4">
        <h1 className="text-lg font-semibold">Bring {model.name} in again</h1>
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
        <Working busy={busy} error={error} />
      </div>
    </div>
  );
}
