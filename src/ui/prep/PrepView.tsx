'use client';

import { useQuery, useQueryClient } from '@tanstack/react-query';
import { Camera, History, ImageUp, LoaderCircle, Redo2, Trash2, Undo2 } from 'lucide-react';
import { useCallback, useEffect, useRef, useState } from 'react';
import { useDropzone } from 'react-dropzone';
import { Group, Panel, Separator } from 'react-resizable-panels';
import { toast } from 'sonner';
import { GROUNDS } from '@/core/picture/camera';
import { ROLE_LABELS } from '@/core/material/schema';
import { GIVEN_ROLES } from '@/core/prep/given';
import type { Prep } from '@/core/prep/schema';
import { stepOf } from '@/core/prep/steps/registry';
import { useLibraryRefresh } from '../materials/useLibrary';
import { useProject } from '../project/projectStore';
import { useSelection } from '../project/selection';
import { layNow } from '../studio/lay';
import type { Job } from '@/api/answers';
import { call, imageUrl, messageOf, sendFiles } from '../shared/api';
import { followJob } from '../shared/followJob';
import { TextField } from '../shared/fields';
import { isTyping, useKeys } from '../shared/keys';
import { HistoryList } from '../shared/HistoryList';
import { Menu } from '../shared/Menu';
import { LightTable } from './LightTable';
import { PrepBench } from './PrepBench';
import { settlePrep, usePrep } from './prepStore';
import { RepeatedView } from './RepeatedView';
import { StepLine } from './StepLine';
import { type PrepWork, usePrepRun } from './usePrepRun';

/** From a photograph to a straight, even, seamless material of true size. */
export function PrepView() {
  const client = useQueryClient();
  const preps = useQuery({ queryKey: ['preps'], queryFn: ({ signal }) => call('GET /api/preps', {}, signal) });
  const { prep, open, change, undo, redo, canUndo, canRedo, error } = usePrep();
  const work = usePrepRun();
  const { run, maps, busy, error: failed } = work;
  const [sending, setSending] = useState<number | null>(null);
  const refresh = useCallback(() => client.invalidateQueries({ queryKey: ['preps'] }), [client]);

  const take = async (files: File[]) => {
    if (!files.length) return;
    setSending(0);
    try {
      const made = await sendFiles('POST /api/preps', { files, progress: setSending });
      await switchTo(made[0].id);
      await refresh();
      for (const { name, given } of made) {
        const along = GIVEN_ROLES.filter((role) => given.maps[role]).map((role) => ROLE_LABELS[role].toLowerCase());
        if (along.length) toast(`Along with “${name}”`, { description: `${along.join(', ')}: through every step.` });
      }
    } catch (e) {
      toast.error('The picture cannot come in', { description: messageOf(e), duration: 12_000 });
    } finally {
      setSending(null);
    }
  };
  const [taking, setTaking] = useState(false);
  const photograph = async (ground: string) => {
    setTaking(true);
    try {
      const seed = (preps.data ?? []).filter((p) => p.name.startsWith(`Photograph of ${ground}`)).length + 1;
      const taken = await call('POST /api/preps/simulated', { body: { ground, seed } });
      await switchTo(taken.id);
      await refresh();
    } catch (e) {
      toast.error('No photograph was taken', { description: messageOf(e) });
    } finally {
      setTaking(false);
    }
  };
  const switchTo = async (id: string) => {
    await settlePrep();
    open(id ? await call('GET /api/preps/{id}', { id }) : null);
  };
  const remove = async () => {
    const gone = prep!;
    open(null);
    await call('DELETE /api/preps/{id}', { id: gone.id }).catch((e: unknown) => toast.error(messageOf(e)));
    await refresh();
  };
  /** Here, steps back are the prep's own. */
  const ownKey = (run: () => Promise<void>) => (e: KeyboardEvent) => {
    if (isTyping(e)) return;
    e.preventDefault();
    e.stopImmediatePropagation();
    void run();
  };
  useKeys({ '$mod+z': ownKey(undo), '$mod+Shift+z': ownKey(redo) }, true);

  const drop = useDropzone({ onDrop: (f) => void take(f), noClick: true, noKeyboard: true });
  return (
    <div
      className={
        'flex min-h-0 flex-1 flex-col ' +
        `${drop.isDragActive ? 'outline-2 -outline-offset-4 outline-primary outline-dashed' : ''}`
      }
      {...drop.getRootProps()}
    >
      <h1 className="sr-only">Prep</h1>
      <input {...drop.getInputProps({ 'aria-label': 'Pictures to prepare' })} />
      <div className="hair flex h-10 shrink-0 items-center gap-1.5 border-b bg-base-100 px-2">
        <select
          aria-label="Picture"
          className="field w-56"
          value={prep?.id ?? ''}
          onChange={(e) => void switchTo(e.target.value)}
        >
          <option value="">{preps.data?.length ? 'Choose a picture…' : 'No pictures yet'}</option>
          {preps.data?.map((p) => (
            <option key={p.id} value={p.id}>
              {p.id === prep?.id ? prep.name : p.name}
            </option>
          ))}
        </select>
        <button type="button" className="tool" onClick={drop.open}>
          <ImageUp size={14} /> Bring a picture
        </button>
        <Menu
          label={
            <>
              <Camera size={14} /> Photograph
            </>
          }
          title="The simulated camera: photographs of made-up materials, to try prep on"
        >
          {(close) =>
            Object.entries(GROUNDS).map(([k, g]) => (
              <button key={k} type="button" className="tool" onClick={() => (void photograph(k), close())}>
                {g.label}
              </button>
            ))
          }
        </Menu>
        {sending !== null && (
          <progress className="progress w-24 progress-primary" aria-label="Sending" max={1} value={sending} />
        )}
        {taking && (
          <span role="status" className="quiet flex items-center gap-1 text-2xs">
            <LoaderCircle size={12} className="animate-spin" /> Taking the photograph
          </span>
        )}
        {prep && (
          <>
            <button
              type="button"
              className="tool"
              disabled={!canUndo}
              onClick={() => void undo()}
              title="A step back in prep (Ctrl+Z)"
              aria-label="Undo in prep"
            >
              <Undo2 size={14} />
            </button>
            <button
              type="button"
              className="tool"
              disabled={!canRedo}
              onClick={() => void redo()}
              title="A step forward (Ctrl+Shift+Z)"
              aria-label="Redo in prep"
            >
              <Redo2 size={14} />
            </button>
            <PrepHistory id={prep.id} />
            <Progress prep={prep} work={work} />
            {(error ?? failed) && (
              <span role="alert" className="truncate text-2xs text-error">
                {error ?? failed}
              </span>
            )}
            <span className="ml-auto" />
            <div className="w-44">
              <TextField
                label="Name of the material"
                hidden
                value={prep.name}
                onChange={(name) => name && change({ name })}
              />
            </div>
            <MakeMaterial prep={prep} sized={!!run?.result.mmPerPx} broken={!!run?.failed} />
            <button
              type="button"
              className="tool px-1"
              title="Throw this prep away"
              aria-label="Remove this prep"
              onClick={() => void remove()}
            >
              <Trash2 size={13} />
            </button>
          </>
        )}
      </div>
      {prep ? (
        <>
          <StepLine />
          <Group orientation="horizontal" className="min-h-0 flex-1">
            <Panel defaultSize="42%" minSize="20%">
              <RepeatedView run={run} busy={busy} />
            </Panel>
            <Separator className="w-px bg-base-300 hover:bg-secondary data-[separator=active]:bg-secondary" />
            <Panel defaultSize="58%" minSize="25%" className="flex">
              <LightTable run={run} busy={busy} />
            </Panel>
          </Group>
          <PrepBench run={run} maps={maps} />
        </>
      ) : (
        <Start preps={preps.data ?? []} onOpen={(id) => void switchTo(id)} />
      )}
    </div>
  );
}

/** Which step is under way, and a way to stop it. */
function Progress({ prep, work: { busy, at, stopped, stop, goOn } }: { prep: Prep; work: PrepWork }) {
  if (stopped) {
    return (
      <span role="status" className="flex items-center gap-1 text-2xs">
        Stopped: what you see is older than the steps.{' '}
        <button type="button" className="tool" onClick={goOn}>
          Go on
        </button>
      </span>
    );
  }
  if (!busy) return null;
  const step = prep.steps[at];
  return (
    <span role="status" className="quiet flex items-center gap-1 text-2xs">
      <LoaderCircle size={12} className="animate-spin" />{' '}
      {step ? `${stepOf(step).label}, step ${at + 1} of ${prep.steps.length}` : 'Working'}
      <button type="button" className="tool px-1" onClick={stop}>
        Stop
      </button>
    </span>
  );
}

/** Before a picture is chosen. */
function Start({ preps, onOpen }: { preps: Prep[]; onOpen: (id: string) => void }) {
  return (
    <div className="min-h-0 flex-1 overflow-auto p-6">
      <p className="mb-4 max-w-xl leading-snug">
        Drop a photograph or scan of a material here. Say how large it is, even out its light, make it seamless: a
        minute later it lies on a wall at its true size. A set of maps comes with it when their files are named alike
        (“harbour_colour”, “harbour_normal”). No photograph at hand? The simulated camera takes one.
      </p>
      <ul className="grid grid-cols-[repeat(auto-fill,180px)] gap-3" aria-label="Pictures in prep">
        {preps.map((p) => (
          <li key={p.id}>
            <button type="button" className="card-panel w-full overflow-hidden text-left" onClick={() => onOpen(p.id)}>
              <img src={imageUrl(p.picture.image, 256)} alt="" className="h-28 w-full object-cover" />
              <span className="block truncate px-2 pt-1">{p.name}</span>
              <span className="quiet num block px-2 pb-1 text-2xs">
                {p.picture.widthPx} × {p.picture.heightPx} px, {p.steps.length} steps{p.material ? ', made' : ''}
              </span>
            </button>
          </li>
        ))}
      </ul>
    </div>
  );
}

/** Does every step at full size on the server and puts the material into the library. */
function MakeMaterial({ prep, sized, broken }: { prep: Prep; sized: boolean; broken: boolean }) {
  const refresh = useLibraryRefresh();
  const [job, setJob] = useState<Job | null>(null);
  const stop = useRef<(() => void) | null>(null);
  useEffect(() => () => stop.current?.(), []);
  const running = job?.state === 'running' || job?.state === 'queued';
  const make = async () => {
    try {
      await settlePrep();
      const started = await call('POST /api/preps/{id}/material', { id: prep.id });
      setJob(started);
      stop.current = followJob(started.id, (next) => {
        setJob(next);
        if (next.state === 'failed')
          toast.error('No material was made', { description: next.message, duration: 12_000 });
        if (next.state !== 'done') return;
        const now = usePrep.getState().prep;
        if (now?.id === prep.id) usePrep.setState({ prep: { ...now, material: next.result?.material ?? null } });
        void refresh();
        offer(prep.name, next.result?.material ?? null);
      });
    } catch (e) {
      toast.error('No material was made', { description: messageOf(e) });
    }
  };
  if (running) {
    return (
      <span className="flex items-center gap-1.5 text-2xs" role="status">
        <progress
          className="progress w-24 progress-primary"
          aria-label="Making the material"
          max={1}
          value={job.progress}
        />{' '}
        {job.message}
        <button type="button" className="tool" onClick={() => void call('DELETE /api/jobs/{id}', { id: job.id })}>
          Cancel
        </button>
      </span>
    );
  }
  return (
    <button
      type="button"
      className="tool tool-main"
      disabled={!sized || broken}
      title={
        broken
          ? 'A step cannot be done'
          : sized
            ? 'All steps at full size, into the library'
            : 'Its size is not known yet: add a Size step'
      }
      onClick={() => void make()}
    >
      {prep.material ? 'Make the material anew' : 'Make the material'}
    </button>
  );
}

/** Says that a material is made, and offers to lay it on what is picked in the studio. */
function offer(name: string, id: string | null): void {
  const { project } = useProject.getState();
  const ids = useSelection.getState().ids.filter((one) => project?.surfaces[one]);
  const layIt = async () => {
    const made = (await call('GET /api/materials', {})).find((m) => m.id === id);
    if (made) await layNow(ids, made);
  };
  const [first] = ids;
  toast.success(`“${name}” is in the library.`, {
    duration: 12_000,
    ...(first && {
      action: {
        label: `Lay it on ${ids.length > 1 ? `the ${ids.length} picked` : project!.surfaces[first].name}`,
        onClick: () => void layIt().catch((e: unknown) => toast.error(messageOf(e))),
      },
    }),
  });
}

/** What was done to the prep; each step can be gone to and named. */
function PrepHistory({ id }: { id: string }) {
  const { revision, goTo } = usePrep();
  return (
    <Menu title="History of this prep" label={<History size={14} />}>
      {() => (
        <div className="max-h-96 w-72 overflow-auto p-1">
          <HistoryList
            of={[id, revision]}
            list={() => call('GET /api/preps/{id}/history', { id })}
            name={(entry, name) => call('PATCH /api/preps/{id}/history/{entry}', { id, entry, body: { name } })}
            goTo={goTo}
          />
        </div>
      )}
    </Menu>
  );
}
