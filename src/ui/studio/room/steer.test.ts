import fc from 'fast-check';
import { PerspectiveCamera, Vector3 } from 'three';
import { type Stand, targetAtDepth, turnAbout } from './steer';

const place = fc
  .tuple(...[0, 1, 2].map(() => fc.double({ min: -20, max: 20, noNaN: true })))
  .map(([x, y, z]) => new Vector3(x, y, z));
const angle = fc.double({ min: -3, max: 3, noNaN: true });
const apart = (s: Stand) => s.eye.distanceTo(s.target) > 0.5;

/** Where a point is seen. */
function seen({ eye, target }: Stand, point: Vector3): Vector3 {
  const camera = new PerspectiveCamera(50, 1.5, 0.1, 1000);
  camera.position.copy(eye);
  camera.lookAt(target);
  camera.updateMatrixWorld();
  return point.clone().project(camera);
}

test('what is turned about stays as far away and where it is seen', () => {
  fc.assert(
    fc.property(place, place, place, angle, angle, (eye, target, pivot, round, over) => {
      const before = { eye, target };
      fc.pre(apart(before) && eye.distanceTo(pivot) > 0.5);
      const back = eye.clone().sub(target).normalize();
      fc.pre(Math.abs(back.y) < 0.98);
      const after = turnAbout(before, pivot, round, over);
      expect(after.eye.distanceTo(pivot)).toBeCloseTo(eye.distanceTo(pivot), 6);
      expect(after.eye.distanceTo(after.target)).toBeCloseTo(eye.distanceTo(target), 6);
      const [a, b] = [seen(before, pivot), seen(after, pivot)];
      fc.pre(Math.abs(a.z) < 1 && Math.abs(a.x) < 5 && Math.abs(a.y) < 5);
      expect(b.x).toBeCloseTo(a.x, 3);
      expect(b.y).toBeCloseTo(a.y, 3);
    }),
  );
});

test('one never stands on one’s head', () => {
  fc.assert(
    fc.property(place, place, angle, angle, (eye, target, round, over) => {
      fc.pre(apart({ eye, target }));
      const after = turnAbout({ eye, target }, target, round, over);
      const polar = after.eye
        .clone()
        .sub(after.target)
        .angleTo(new Vector3(0, 1, 0));
      expect(polar).toBeGreaterThan(0.001);
      expect(polar).toBeLessThan(Math.PI - 0.001);
    }),
  );
});

test('however often one moves towards what is under the pointer, one does not come behind it', () => {
  const stand = { eye: new Vector3(0, 1.6, 4), target: new Vector3(0, 1.4, -50) };
  const floor = new Vector3(0.3, 0, 1);
  const ahead = stand.target.clone().sub(stand.eye).normalize();
  for (let n = 0; n < 40; n++) {
    const target = targetAtDepth(stand, floor)!;
    const way = floor.clone().sub(stand.eye).normalize();
    stand.eye.addScaledVector(way, stand.eye.distanceTo(target) * 0.2);
    // the way one looks stays
    stand.target = stand.eye.clone().add(ahead);
  }
  expect(stand.eye.y).toBeGreaterThan(0);
  expect(stand.eye.distanceTo(floor)).toBeLessThan(0.4);
  expect(targetAtDepth({ eye: new Vector3(), target: new Vector3(0, 0, -1) }, new Vector3(0, 0, 5))).toBeNull();
});
