import { MeshBasicMaterial } from 'three';
import type { Material } from '@/core/material/schema';
import { allRegions } from '@/core/project/regions';
import type { Project } from '@/core/project/schema';
import { repeatOnSheet } from '@/core/setout/placement';
import { finishOn } from '@/core/specification/finish';
import { liesInPieces, repeatOf, type SpecInPieces } from '@/core/specification/schema';
import { stillMaps } from '@/core/variation/schema';
import type { Entry } from './entry';
import type { DrawMode, RoomMaterials } from './materials';
import type { ShownMap } from './settings';
import {
  colourByMeasure,
  colourFlat,
  groupOf,
  groupsOf,
  isLoud,
  isRamp,
  type Loud,
  rampColour,
  repeatsOf,
} from './measures';
import { pieceShare } from './nearness';
import { wearShading } from './worn';
import { coverOf, type JointShading, type PieceCover } from './pieceShader';

/** Gives what is drawn its materials, and says what is seen: everything that needs no worker. */
export class Dressing {
  /** For meshes that are there to be picked only. */
  private readonly unseen = new MeshBasicMaterial({ visible: false });

  constructor(private readonly make: RoomMaterials) {}

  /** @param alone the surfaces that are shown by themselves, if some are */
  dress(entry: Entry, project: Project, mode: DrawMode, alone: ReadonlySet<string> | null): void {
    const { mesh } = entry;
    const { surface, spec, colour } = entry.region;
    const material: Material | undefined = spec ? project.materials[spec.material] : undefined;
    const model = project.models[project.parts[surface.part].model];
    entry.lamp = null;
    const shown = [surface.id, surface.zone?.of, ...(surface.run?.members ?? [])];
    mesh.visible = !surface.hidden && (!alone || shown.some((id) => id && alone.has(id)));
    for (const { mesh: pieces } of entry.pieces?.meshes ?? []) pieces.visible = false;
    if (entry.dropped) return void (mesh.material = this.make.shadowOnly());
    if (this.overlay(entry, project, mode.shown)) return;
    const under = <T>(draw: () => T) => this.make.wearing(entry.worn && wearShading(entry.worn), mode, draw);
    if (mode.shown === 'wear') mesh.material = under(() => this.make.bare('#dcd8ce', mode));
    else if (spec && material) {
      const size = repeatOnSheet(spec, material, entry.sheet);
      const drawn = { material, look: finishOn(spec.finish, material, size.widthMm), ...size };
      if (drawn.look.emission > 0) entry.lamp = entry.sphere.center.toArray();
      if (!liesInPieces(spec)) mesh.material = under(() => this.make.dressed(drawn, mode));
      else if (entry.near && entry.pieces) this.dressPieces(entry, spec, project, mode);
      else
        mesh.material = under(() =>
          this.make.fromAfar(drawn, mode, jointColour(spec, project), pieceShare(entry.region)),
        );
    } else if (mode.shown === 'test' && mode.test) {
      const drawn = { material: mode.test, look: finishOn({}, mode.test), widthMm: 1000, heightMm: 1000 };
      mesh.material = this.make.dressed(drawn, mode);
    } else {
      const bare = colour ?? model.slots[surface.slot]?.colour ?? '#c9c4ba';
      mesh.material = under(() => this.make.bare(bare, mode));
    }
  }

  /** Colours a surface by what it measures or is, where that is shown. */
  private overlay({ mesh, region }: Entry, project: Project, shown: ShownMap): boolean {
    const { spec } = region;
    const material = spec ? project.materials[spec.material] : undefined;
    const px =
      spec && material?.maps.baseColour ? material.maps.baseColour.widthPx / repeatOf(spec, material).widthMm : null;
    if (shown === 'facing') mesh.material = this.make.facing();
    else if (shown === 'onScreen') mesh.material = this.make.onScreen(px ?? 0);
    else if (isRamp(shown) || isLoud(shown)) {
      if (isLoud(shown)) {
        const group = groupOf(region, project, shown);
        colourFlat(mesh.geometry, group && (this.groups(project, shown).get(group.key)?.colour ?? null));
      } else if (shown === 'repeats') {
        const count = repeatsOf(region, project);
        colourFlat(mesh.geometry, count === null ? null : rampColour(count, shown));
      } else colourByMeasure(mesh.geometry, shown, px);
      mesh.material = this.make.measured();
    } else return false;
    return true;
  }

  private known: { project: Project; by: Loud; groups: ReturnType<typeof groupsOf> } | null = null;

  /** The groups of a project, found once for all its surfaces. */
  private groups(project: Project, by: Loud): ReturnType<typeof groupsOf> {
    if (this.known?.project !== project || this.known.by !== by)
      this.known = { project, by, groups: groupsOf(allRegions(project), project, by) };
    return this.known.groups;
  }

  /** Gives the pieces of a surface their materials. */
  private dressPieces(entry: Entry, spec: SpecInPieces, project: Project, mode: DrawMode): void {
    const { pieces, variation } = spec;
    const main = project.materials[spec.material];
    const inJoints = pieces.joint.material ? project.materials[pieces.joint.material] : undefined;
    const map = inJoints ? this.make.jointPicture(inJoints, mode) : null;
    const joint: Omit<JointShading, keyof PieceCover> = {
      colour: jointColour(spec, project),
      inset: entry.pieces!.inset,
      recessMm: pieces.joint.recessMm,
      roundingMm: pieces.joint.roundingMm,
      picture: inJoints && map ? { map, size: [inJoints.widthMm, inJoints.heightMm] } : null,
    };
    const still = variation ? stillMaps(variation) : [];
    const has = entry.worn && entry.pieces!.meshes.every((m) => m.mesh.geometry.hasAttribute('aWorn'));
    const shading = has ? wearShading(entry.worn!, entry.pieces!.toSheet) : null;
    const materials = [main, ...pieces.mix.entries.map((e) => project.materials[e.material] ?? main)];
    for (const { mesh, material: n, module, share, cellArea } of entry.pieces!.meshes) {
      const material = materials[n];
      const cover = coverOf(module < 0 ? 'part' : entry.pieces!.modules[module], joint.inset, entry.pieces!.runOn, {
        share,
        cellArea,
      });
      // only the main material has a size of its own on this surface
      const size = n === 0 ? repeatOf(spec, material) : { widthMm: material.widthMm, heightMm: material.heightMm };
      const drawn = { material, look: finishOn(spec.finish, material, size.widthMm), ...size };
      const brightened = entry.pieces!.brightened[n] ?? 1;
      mesh.material = this.make.wearing(shading, mode, () =>
        this.make.pieces(drawn, mode, { ...joint, ...cover }, brightened, still),
      );
      mesh.visible = entry.mesh.visible;
    }
    // behind the cells lies the surface in the joints' colour, so that nothing shines through between two of them
    const seeThrough = materials.some((m) => m.maps.opacity);
    entry.mesh.material = seeThrough ? this.unseen : this.make.backing(joint.colour, mode);
  }
}

const jointColour = ({ pieces: { joint } }: SpecInPieces, { materials }: Project): string =>
  (joint.material && materials[joint.material]?.colour) || joint.colour;
