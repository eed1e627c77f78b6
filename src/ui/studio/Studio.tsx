'use client';

import { DndContext, DragOverlay, PointerSensor, useSensor, useSensors } from '@dnd-kit/core';
import { useEffect, useState } from 'react';
import { Group, Panel, Separator } from 'react-resizable-panels';
import type { Material } from '@/core/material/schema';
import { laidAlone, runOf } from '@/core/project/runs';
import { ImportPanel } from '../import/ImportPanel';
import { RevisionPanel } from '../import/RevisionPanel';
import { Swatch } from '../materials/Swatch';
import { usePanels } from '../project/panels';
import { useProject } from '../project/projectStore';
import { useSelection } from '../project/selection';
import { Bench } from './bench/Bench';
import { useStudioKeys } from './keys';
import { layMaterial, layNow } from './lay';
import { layOnMember } from './layOnMember';
import { openRoom, RoomView } from './room/RoomView';
import { useRoomSettings } from './room/settings';
import { SheetView } from './sheet/SheetView';
import { SpecLine } from './SpecLine';
import { SurfacesList } from './surfaces/SurfacesList';
import { followDrag, takerAt, THE_ROOM } from './swatchDrag';

/** Where the work is done: surfaces, room, sheet, bench. */
export function Studio() {
  const project = useProject((s) => s.project)!;
  const layout = useRoomSettings((s) => s.layout);
  const laidOut = useRoomSettings((s) => s.laidOut);
  const panel = usePanels((s) => s.open);
  const importing = panel === 'import';
  const [dragged, setDragged] = useState<Material[] | null>(null);
  const sensors = useSensors(useSensor(PointerSensor, { activationConstraint: { distance: 5 } }));
  const hasParts = Object.keys(project.parts).length > 0;
  useStudioKeys();

  // a project opens with its largest floor (or whatever is largest) picked, so that all views have something to show
  useEffect(() => {
    const { ids, past, select } = useSelection.getState();
    const opened = useProject.getState().project;
    if (!hasParts || !opened || ids.length || past.length) return;
    const open = laidAlone(opened).filter((s) => !s.hidden && !s.leftBare);
    const floors = open.filter((s) => s.normal[1] > 0.9 && s.name.startsWith('Floor'));
    const first = (floors.length ? floors : open).reduce<(typeof open)[0] | null>(
      (a, b) => (!a || b.areaMm2 > a.areaMm2 * 1.3 ? b : a),
      null,
    );
    if (first) select([first.id]);
  }, [project.id, hasParts]);

  // surfaces that are gone (merged, split, undone) are no longer picked; who picks a member picks its run
  const ids = useSelection((s) => s.ids);
  useEffect(() => {
    const left = [...new Set(ids.map((id) => runOf(project, id)?.id ?? id))].filter((id) => project.surfaces[id]);
    if (left.join() !== ids.join()) useSelection.getState().select(left);
  }, [project, ids]);

  if (importing || !hasParts) return <ImportPanel />;
  if (panel === 'revise') return <RevisionPanel />;

  function dragFrom(materials: Material[]) {
    const { hover } = useSelection.getState();
    setDragged(materials);
    followDrag({
      moved: (x, y) => {
        const target = targetAt(x, y);
        hover(target && (runOf(useProject.getState().project!, target)?.id ?? target));
      },
      ended: () => {
        setDragged(null);
        hover(null);
      },
      dropped: (x, y) => {
        const target = targetAt(x, y);
        if (target) layDropped(materials, target);
      },
    });
  }

  return (
    <DndContext
      sensors={sensors}
      onDragStart={(e) => dragFrom((e.active.data.current as { materials: Material[] }).materials)}
    >
      <h1 className="sr-only">Studio, {project.name}</h1>
      <SpecLine />
      <Group key={laidOut} orientation="horizontal" className="min-h-0 flex-1">
        <Panel defaultSize="19%" minSize="12%" maxSize="40%">
          <SurfacesList />
        </Panel>
        <Divider />
        {layout !== 'sheet' && (
          <Panel id="room" defaultSize={layout === 'both' ? '46%' : '81%'} minSize="20%">
            <RoomView />
          </Panel>
        )}
        {layout === 'both' && <Divider />}
        {layout !== 'room' && (
          <Panel id="sheet" defaultSize={layout === 'both' ? '35%' : '81%'} minSize="20%">
            <SheetView />
          </Panel>
        )}
      </Group>
      <Bench />
      <DragOverlay dropAnimation={null}>
        {dragged && (
          <span className="flex">
            {dragged.slice(0, 4).map((m, n) => (
              <Swatch key={m.id} material={m} size={44} mm={400} className={`shadow-lg ${n ? '-ml-6' : ''}`} />
            ))}
          </span>
        )}
      </DragOverlay>
    </DndContext>
  );
}

/** The surface at a place of the window, in its row or in the room: of a run, the member. */
function targetAt(x: number, y: number): string | null {
  const taker = takerAt(x, y);
  if (taker !== THE_ROOM) return taker;
  const rect = document.querySelector('[data-testid="room-canvas"]')!.getBoundingClientRect();
  return openRoom.current?.pick(x - rect.left, y - rect.top)?.member ?? null;
}

/** Lays materials where they were dropped: dropped on one of several picked surfaces, on all of them. */
function layDropped(materials: Material[], target: string) {
  const { ids, select } = useSelection.getState();
  const project = useProject.getState().project!;
  if (runOf(project, target)) return layOnMember(target, (then, id) => layMaterial(then, [id], materials));
  void layNow(ids.includes(target) ? ids : [target], materials);
  if (!ids.includes(target)) select([target]);
}

function Divider() {
  return (
    <Separator className="w-px bg-base-300 outline-offset-0 hover:bg-secondary data-[separator=active]:bg-secondary" />
  );
}
