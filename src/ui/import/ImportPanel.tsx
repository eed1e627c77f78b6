'use client';

import { endingsOf } from '@/core/formats/readers';
import { FileUp, X } from 'lucide-react';
import { useRef, useState } from 'react';
import { useDropzone } from 'react-dropzone';
import { usePanels } from '../project/panels';
import { useProject } from '../project/projectStore';
import { call, messageOf, sendFiles } from '../shared/api';
import type { Preview } from '@/api/answers';
import { Review } from './Review';

/** Bringing a model in: drop, look, correct, and only then save. */
export function ImportPanel() {
  const [preview, setPreview] = useState<Preview | null>(null);
  const [progress, setProgress] = useState<number | null>(null);
  const [error, setError] = useState<string | null>(null);
  const abort = useRef<AbortController | null>(null);
  const isFirst = useProject((s) => !Object.keys(s.project?.parts ?? {}).length);
  const close = usePanels((s) => s.close);

  async function send(files: File[]) {
    if (!files.length) return;
    setError(null);
    setProgress(0);
    abort.current = new AbortController();
    try {
      setPreview(await sendFiles('POST /api/uploads', { files, progress: setProgress, signal: abort.current.signal }));
    } catch (e) {
      if ((e as Error).name !== 'AbortError') setError(messageOf(e));
    } finally {
      setProgress(null);
    }
  }

  const leave = () => {
    if (preview) void call('DELETE /api/uploads/{id}', { id: preview.upload }).catch(() => undefined);
    setPreview(null);
    if (!isFirst) close();
  };

  const { getRootProps, getInputProps, isDragActive, open } = useDropzone({
    onDrop: (f) => void send(f),
    noClick: true,
    noKeyboard: true,
  });
  if (preview) return <Review preview={preview} onPreview={setPreview} leave={leave} />;
  return (
    <div
      {...getRootProps()}
      className="relative flex min-h-0 flex-1 flex-col items-center justify-center gap-6 bg-base-200 p-8"
    >
      <input {...getInputProps({ 'aria-label': 'Model files' })} />
      {!isFirst && (
        <button type="button" className="tool absolute top-3 right-3" onClick={leave}>
          <X size={14} /> Back to the studio
        </button>
      )}
      <div
        className={
          'flex w-full max-w-xl flex-col items-center gap-3 rounded-[6px] border border-dashed ' +
          `p-10 ${isDragActive ? 'border-primary bg-base-100' : 'border-base-content/35'}`
        }
      >
        <FileUp size={26} className="quiet" />
        <h1 className="text-lg font-semibold">Bring a model in</h1>
        <p className="quiet text-center">
          Drop a model here ({endingsOf()} are read), with its material file and pictures: as files, as a folder or as a
          zip, up to 512 MB.
        </p>
        {progress === null ? (
          <button type="button" className="tool tool-main" onClick={open}>
            Choose files
          </button>
        ) : (
          <div className="flex w-full items-center gap-3">
            <progress
              className="progress progress-primary flex-1"
              max={1}
              value={progress < 1 ? progress : undefined}
              aria-label="Sending"
            />
            <span className="num text-2xs">{progress < 1 ? `${Math.round(progress * 100)}%` : 'Reading…'}</span>
            <button type="button" className="tool" onClick={() => abort.current?.abort()}>
              Cancel
            </button>
          </div>
        )}
        {error && (
          <p role="alert" className="text-error text-center">
            {error}
          </p>
        )}
      </div>
      {isFirst && (
        <ol className="quiet grid max-w-3xl grid-cols-3 gap-6 text-[13px]">
          <li>
            <strong className="text-base-content">1. Bring the model in</strong> and check one length you know. Nothing
            is saved before you agree.
          </li>
          <li>
            <strong className="text-base-content">2. Lay materials</strong> of known size: drag a swatch onto a surface,
            in the room or in the list.
          </li>
          <li>
            <strong className="text-base-content">3. Set it out:</strong> repeat, start and direction in millimetres;
            then hand over a GLB.
          </li>
        </ol>
      )}
    </div>
  );
}
