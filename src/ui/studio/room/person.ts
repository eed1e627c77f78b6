import { CapsuleGeometry, CylinderGeometry, Group, Mesh, MeshLambertMaterial, SphereGeometry, Vector3 } from 'three';
import { writeLight } from './openSky';
import type { RoomCamera } from './RoomCamera';

/** A person of 1.72 m, as plain as a wooden figure. Stands on its own origin; metres. */
export function makePerson(): Group {
  const cloth = new MeshLambertMaterial({ color: '#2f4b7c' });
  const skin = new MeshLambertMaterial({ color: '#b98c6b' });
  const dark = new MeshLambertMaterial({ color: '#3a4049' });
  for (const material of [cloth, skin, dark]) writeLight(material);
  const group = new Group();
  const add = (
    geometry: CapsuleGeometry | SphereGeometry | CylinderGeometry,
    material: MeshLambertMaterial,
    x: number,
    y: number,
    z = 0,
    tilt = 0,
  ) => {
    const mesh = new Mesh(geometry, material);
    mesh.position.set(x, y, z);
    mesh.rotation.z = tilt;
    mesh.castShadow = true;
    group.add(mesh);
  };
  add(new CapsuleGeometry(0.075, 0.68, 4, 12), dark, -0.1, 0.42);
  add(new CapsuleGeometry(0.075, 0.68, 4, 12), dark, 0.1, 0.42);
  add(new CylinderGeometry(0.2, 0.165, 0.56, 20), cloth, 0, 1.12);
  add(new SphereGeometry(0.2, 20, 12), cloth, 0, 1.38);
  add(new CapsuleGeometry(0.05, 0.54, 4, 10), cloth, -0.255, 1.08, 0, -0.1);
  add(new CapsuleGeometry(0.05, 0.54, 4, 10), cloth, 0.255, 1.08, 0, 0.1);
  add(new SphereGeometry(0.108, 20, 16), skin, 0, 1.612);
  return group;
}

/** Stands the person where one looks, on whatever lies below; it stays there until it has gone. */
export function placePerson(
  person: Group,
  visible: boolean,
  { camera, controls }: RoomCamera,
  groundUnder: (place: Vector3) => number,
): void {
  if (visible && !person.visible) {
    const from = new Vector3().lerpVectors(camera.position, controls.target, 0.7);
    person.position.set(from.x, groundUnder(from.setY(from.y + 0.2)), from.z);
  }
  person.visible = visible;
}
