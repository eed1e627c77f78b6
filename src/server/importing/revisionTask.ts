import type { Revision } from '@/api/answers';
import { readMeshes } from '@/core/formats/meshFile';
import type { CommandOf } from '@/core/project/commands';
import { carryPart, type PartMatch, proposeParts } from '@/core/project/revise';
import type { Model, Part, Project, Surface } from '@/core/project/schema';
import { newId, readBlob } from '../store/data';
import { hex, type PreparedForStore } from './modelTasks';

export type Decisions = Record<number, string | null>;

/** What comes of a changed model, on a worker thread. */
export interface ProposedRevision {
  revision: Omit<Revision, 'opened' | 'known'>;
  command: CommandOf<'reviseModel'>;
  /** Slots of surfaces that are new, and what came of their pictures; what was there keeps what it is laid in. */
  slots: (PreparedForStore['slots'][0] & { number: number })[];
  pictures: PreparedForStore['pictures'];
}

/** Matches parts, and makes the command that carries everything over. */
export async function proposeRevision(
  prepared: PreparedForStore & { unitMm: number; upAxis: 'y' | 'z'; mesh: string },
  project: Project,
  modelId: string,
  decided: Decisions,
  file: string,
): Promise<ProposedRevision> {
  const model = project.models[modelId];
  const oldParts = Object.values(project.parts).filter((p) => p.model === modelId);
  const proposal = proposeParts(oldParts, prepared.parts, decided);
  const oldMeshes = readMeshes(await readBlob(model.mesh));
  const meshes = readMeshes(await readBlob(prepared.mesh));
  const bySurface = new Map<string, Surface[]>();
  for (const s of Object.values(project.surfaces)) bySurface.set(s.part, [...(bySurface.get(s.part) ?? []), s]);
  const parts: Part[] = [];
  const surfaces: Surface[] = [];
  const lost: string[] = [];
  prepared.parts.forEach((now, n) => {
    const match: PartMatch = proposal.parts[n];
    if (match.old === null) {
      const id = newId('part');
      const { surfaces: own, ...rest } = now;
      parts.push({ id, model: modelId, mesh: n, locked: false, ...rest });
      for (const s of own)
        surfaces.push({ id: newId('surface'), part: id, hidden: false, leftBare: false, spec: null, ...s });
      return;
    }
    const old = project.parts[match.old];
    const carried = carryPart(old, bySurface.get(old.id) ?? [], oldMeshes[old.mesh], now, meshes[n], n, () =>
      newId('surface'),
    );
    parts.push(carried.part);
    surfaces.push(...carried.surfaces);
    lost.push(...carried.lost);
  });
  const fresh = new Set(surfaces.filter((s) => !project.surfaces[s.id]).map((s) => s.slot));
  const slots = prepared.slots.map((slot, number) => ({ ...slot, number })).filter(({ number }) => fresh.has(number));
  const named = new Set(slots.flatMap((s) => Object.values(s.pictures)));
  const next: Model = {
    ...model,
    name: prepared.name,
    file,
    mesh: prepared.mesh,
    unitMm: prepared.unitMm,
    upAxis: prepared.upAxis,
    triangles: prepared.triangles,
    slots: prepared.slots.map((s) => ({ name: s.name, colour: hex(s.colour) })),
    remarks: prepared.remarks,
    missingPictures: prepared.missingPictures.filter((path) => named.has(path)),
    missingBySlot: [],
  };
  const goneParts = proposal.gone.map((id) => ({
    id,
    name: project.parts[id].name,
    dressed: (bySurface.get(id) ?? []).filter((s) => s.spec).length,
  }));
  const added = proposal.parts.filter((p) => p.old === null).length;
  return {
    revision: { ...proposal, model: { id: modelId, name: prepared.name }, lost, goneParts, added },
    command: { kind: 'reviseModel', model: next, parts, surfaces, materials: [] },
    slots,
    pictures: prepared.pictures.filter((p) => named.has(p.path)),
  };
}
