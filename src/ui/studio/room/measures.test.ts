/** @jest-environment node */
import { BufferAttribute, BufferGeometry, Color } from 'three';
import type { Region } from '@/core/project/regions';
import type { Project } from '@/core/project/schema';
import { defaultSpec } from '@/core/specification/schema';
import { colourByMeasure, colourFlat, groupsOf, loudColour, rampColour, repeatsOf } from './measures';

const project = {
  materials: {
    oak: { name: 'Smoked oak', widthMm: 2000, heightMm: 1000 },
    lime: { name: 'Lime', widthMm: 1000, heightMm: 1000 },
  },
} as unknown as Project;
const region = (id: string, material: string | null, areaMm2 = 8e6, run = false) =>
  ({
    surface: { id, name: id, areaMm2, ...(run ? { run: { members: [] } } : {}) },
    spec: material ? defaultSpec(material) : null,
  }) as unknown as Region;

describe('overlays', () => {
  const hex = (c: Color) => `#${c.getHexString()}`;

  it('have the middle colour where all is as it should be, and stop at the ends', () => {
    expect(hex(rampColour(1, 'stretch'))).toBe('#e9e4d6');
    expect(hex(rampColour(1, 'density'))).toBe('#e9e4d6');
    expect(hex(rampColour(8, 'repeats'))).toBe('#e9e4d6');
    expect(hex(rampColour(9, 'stretch'))).toBe('#a83a2e');
    // few pixels are the trouble
    expect(hex(rampColour(0.01, 'density'))).toBe('#a83a2e');
    expect(hex(rampColour(1, 'repeats'))).toBe('#2f4b7c');
  });

  it('count repeats by area, never below one', () => {
    expect(repeatsOf(region('a', 'oak'), project)).toBe(4);
    expect(repeatsOf(region('a', 'oak', 1e5), project)).toBe(1);
    expect(repeatsOf(region('a', null), project)).toBeNull();
  });

  it('tell apart by material, spec and run', () => {
    const regions = [
      region('a', 'oak'),
      region('b', 'lime'),
      region('c', 'oak'),
      region('r', 'oak', 1, true),
      region('n', null),
    ];
    regions[2].spec!.direction.turnDeg = 45;
    expect([...groupsOf(regions, project, 'byMaterial').values()].map((g) => g.name)).toEqual(['Smoked oak', 'Lime']);
    expect(groupsOf(regions, project, 'bySpec').size).toBe(3);
    expect([...groupsOf(regions, project, 'byRun').keys()]).toEqual(['r']);
    const colours = Array.from({ length: 12 }, (_, n) => hex(loudColour(n)));
    expect(new Set(colours).size).toBe(12);
  });

  it('colour every vertex, and nothing twice', () => {
    const geometry = new BufferGeometry()
      .setAttribute('position', new BufferAttribute(new Float32Array(9), 3))
      .setAttribute('stretch', new BufferAttribute(Float32Array.from([1, 1.5, 2 / 3]), 1));
    colourByMeasure(geometry, 'stretch', null);
    const colours = geometry.getAttribute('color');
    expect(hex(new Color().fromBufferAttribute(colours, 1))).toBe('#a83a2e');
    expect(hex(new Color().fromBufferAttribute(colours, 2))).toBe('#2f4b7c');
    colourByMeasure(geometry, 'stretch', null);
    expect(geometry.getAttribute('color')).toBe(colours);
    colourFlat(geometry, new Color('#ff0000'));
    expect([...geometry.getAttribute('color').array.slice(0, 3)]).toEqual([1, 0, 0]);
  });
});
