'use client';

import { Plane, Vector3 } from 'three';
import { create } from 'zustand';
import type { Vec3 } from '@/core/geometry/vec';

/** Where the model is cut through, so that one sees into it: all on one side of a plane is left out. */
export interface Section {
  /** What it lies square to; world. */
  axis: 'x' | 'y' | 'z';
  /** World mm along the axis. */
  atMm: number;
  /** What lies below it is left out, not what lies above. */
  other: boolean;
}

interface SectionState {
  section: Section | null;
  set: (section: Section | null) => void;
}

/** A way of looking, not of the project: gone when the page is. */
export const useSection = create<SectionState>((set) => ({ section: null, set: (section) => set({ section }) }));

/**
 * The plane that cuts what is drawn.
 * @param local world mm to metres as drawn
 */
export function cutOf({ axis, atMm, other }: Section, local: (p: Vec3) => Vector3): Plane {
  const normal = new Vector3();
  normal[axis] = other ? 1 : -1;
  const at: Vec3 = [0, 0, 0];
  at['xyz'.indexOf(axis)] = atMm;
  return new Plane().setFromNormalAndCoplanarPoint(normal, local(at));
}
