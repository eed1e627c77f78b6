import { applyCommands } from './commands';
import { describeCommand } from './describe';
import { emptyProject, type Still } from './schema';

const image = 'ab'.repeat(32);
const still: Still = {
  id: 'still-1',
  name: 'Hall',
  eye: [0, 1600, 0],
  target: [0, 1600, -1000],
  widthPx: 1920,
  heightPx: 1080,
  image,
  revision: 3,
};

describe('what is kept of looking', () => {
  const before = emptyProject('p', 'Landing');

  it('stills and photographs come and go, and the rest stays as it is', () => {
    const { project: kept } = applyCommands(before, [
      { kind: 'saveStill', still },
      { kind: 'saveReference', reference: { id: 'ref-1', name: 'Quay at dusk', image, left: 0, top: 0.5, width: 0.3 } },
    ]);
    expect(kept.stills).toEqual({ 'still-1': still });
    expect(kept.references!['ref-1'].name).toBe('Quay at dusk');
    const { project: gone } = applyCommands(kept, [
      { kind: 'removeStill', id: 'still-1' },
      { kind: 'removeReference', id: 'ref-1' },
    ]);
    expect(gone).toEqual({ ...before, stills: {}, references: {} });
  });

  it('what is not there cannot be removed, and nobody keeps more than he can find', () => {
    expect(() => applyCommands(before, [{ kind: 'removeStill', id: 'x' }])).toThrow('there is no still “x”');
    const many = Array.from({ length: 201 }, (_, n) => ({
      kind: 'saveStill' as const,
      still: { ...still, id: `s${n}` },
    }));
    expect(() => applyCommands(before, many)).toThrow('200');
  });

  it('the history says which', () => {
    const { project: kept } = applyCommands(before, [{ kind: 'saveStill', still }]);
    expect(describeCommand(before, { kind: 'saveStill', still })).toBe('Keep still “Hall”');
    expect(describeCommand(kept, { kind: 'removeStill', id: 'still-1' })).toBe('Remove still “Hall”');
  });
});
