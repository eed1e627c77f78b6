import pMap from 'p-map';
import type { KnownMaterial, Preview } from '@/api/answers';
import type { Material } from '@/core/material/schema';
import type { RawPicture, Remark } from '@/core/mesh/types';
import type { Model, Project } from '@/core/project/schema';
import { Problem } from '../http/problem';
import { createMaterial, editWithin, freeName, materialsByName } from '../library/materials';
import type { Db } from '../store/changes';
import { materialFromSlot, type SlotPictures } from './slotMaterial';

/** Slots whose pictures are stored and measured at one time: as many threads read. */
const AT_ONCE = { concurrency: 2 };

export interface MaterialsOfSlots {
  /** By the number of the slot; none where no picture came. */
  bySlot: Map<number, Material>;
  /** Each once. */
  materials: Material[];
  missing: Model['missingBySlot'];
  /** Pictures that nothing asks for, since the library's is taken wherever they are named. */
  spared: Set<string>;
  remarks: Remark[];
  /** Puts what is new into the library: with the project's change, or not at all. */
  store: (db: Db) => Promise<void>;
}

/**
 * What a model's slots are laid in: materials of its pictures, settled with the library where it knows their names.
 * @param from `name` of the model, its `pictures`, what materials that are `known` are, and those the project has
 */
export async function materialsOfSlots(
  slots: (SlotPictures & { number: number })[],
  from: { name: string; pictures: RawPicture[]; known: KnownMaterial; own: Project['materials'] },
  signal?: AbortSignal,
): Promise<MaterialsOfSlots> {
  const have = new Map(from.pictures.map((p) => [p.path, p]));
  const byName = await materialsByName();
  // of what the library has no picture is needed
  const taken = slots.map(({ name, pictures }) =>
    from.known === 'library' && Object.keys(pictures).length ? knownAs(name, byName) : undefined,
  );
  const made = await pMap(
    slots,
    (slot, i) => (taken[i] ? null : materialFromSlot(slot, have, from.name, signal)),
    AT_ONCE,
  );
  const bySlot = new Map<number, Material>();
  const remarks: Remark[] = [];
  const stores: ((db: Db) => Promise<unknown>)[] = [];
  made.forEach((own, i) => {
    if (own) remarks.push(...own.unread);
    if (!taken[i] && !own?.material) return;
    const settled: Settled = taken[i]
      ? ofLibrary(taken[i], from.own)
      : settleKnown(own!.material!, byName, from.known, from.own);
    if (settled.store) stores.push(settled.store);
    if (settled.remark) remarks.push({ kind: 'note', text: settled.remark });
    bySlot.set(slots[i].number, settled.material);
  });
  return {
    bySlot,
    // two slots of one name are both laid in the library's
    materials: [...new Map([...bySlot.values()].map((m) => [m.id, m])).values()],
    missing: slots.flatMap(({ number, pictures }, i) =>
      Object.entries(pictures)
        .filter(([, path]) => !taken[i] && !have.has(path))
        .map(([role, path]) => ({ slot: number, role, path })),
    ),
    spared: sparedOf(slots, taken),
    remarks,
    store: async (db) => {
      for (const one of stores) await one(db);
    },
  };
}

function sparedOf(slots: readonly SlotPictures[], taken: readonly unknown[]): Set<string> {
  const of = (wanted: boolean) =>
    slots.flatMap(({ pictures }, i) => (!taken[i] === wanted ? Object.values(pictures) : []));
  const wanted = of(true);
  return new Set(of(false).filter((path) => !wanted.includes(path)));
}

const knownAs = (name: string, byName: Map<string, Material>) => byName.get(name.trim().toLowerCase());

/** Materials of the library that slots of these names would have. */
export async function knownMaterials(names: string[]): Promise<Preview['known']> {
  const byName = await materialsByName();
  const known = names.flatMap((name) => knownAs(name, byName) ?? []);
  return [...new Set(known)].map(({ id, name }) => ({ id, name }));
}

interface Settled {
  material: Material;
  store?: (db: Db) => Promise<unknown>;
  remark?: string;
}

/** The library's as it is; one the project has already stays as it is there. */
const ofLibrary = (before: Material, own: Project['materials']): Settled => ({
  material: own[before.id] ?? before,
  remark: `“${before.name}” is the library's; the file's pictures of it were left out`,
});

/** What comes of a model's material where the library has one of its name, and how that is stored. */
function settleKnown(
  made: Material,
  byName: Map<string, Material>,
  known: KnownMaterial,
  own: Project['materials'],
): Settled {
  const before = byName.get(made.name.toLowerCase());
  if (!before || known === 'another') {
    const material = before ? { ...made, name: freeName(made.name, byName) } : made;
    byName.set(material.name.toLowerCase(), material);
    const remark = before && `the library has “${before.name}”: the file's came in as “${material.name}”`;
    return { material, store: (db) => createMaterial(material, db), ...(remark ? { remark } : {}) };
  }
  if (known === 'library') return ofLibrary(before, own);
  // a new version keeps every setting, and the maps that nothing came for
  const { colour, repetition, seamless } = made;
  const values = { colour, repetition, seamless, maps: { ...before.maps, ...made.maps } };
  const material = { ...before, ...values, version: before.version + 1 };
  byName.set(before.name.toLowerCase(), material);
  return {
    material,
    store: async (db) => {
      const { version } = await editWithin(db, before.id, values);
      if (version !== material.version)
        throw new Problem(409, 'Changed meanwhile', `“${before.name}” was edited just now; bring the model in again.`);
    },
    remark: `“${before.name}” has a new version with the file's pictures`,
  };
}
