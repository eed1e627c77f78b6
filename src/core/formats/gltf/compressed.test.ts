import { Document, type JSONDocument, Logger, Verbosity, WebIO } from '@gltf-transform/core';
import { EXTMeshoptCompression, KHRDracoMeshCompression } from '@gltf-transform/extensions';
import { dedup, meshopt, weld } from '@gltf-transform/functions';
import draco3d from 'draco3dgltf';
import { MeshoptDecoder, MeshoptEncoder } from 'meshoptimizer';
import { prepareModel } from '../../mesh/prepare';
import { boxTriangles } from '../../testing/fixtures';
import { fileSetOf } from '../fileSet';
import { readModel } from '../readModel';

function boxDocument(): Document {
  const document = new Document().setLogger(new Logger(Verbosity.SILENT));
  const positions = document
    .createAccessor()
    .setType('VEC3')
    .setArray(Float32Array.from(boxTriangles([0, 0, 0], [4, 3, 5])))
    .setBuffer(document.createBuffer());
  const mesh = document.createMesh('Box').addPrimitive(document.createPrimitive().setAttribute('POSITION', positions));
  document.createScene().addChild(document.createNode('Box').setMesh(mesh));
  return document;
}

async function sizeOf(bytes: Uint8Array): Promise<number[]> {
  const decoders = { 'draco3d.decoder': await draco3d.createDecoderModule(), 'meshopt.decoder': MeshoptDecoder };
  await MeshoptDecoder.ready;
  const raw = await readModel(fileSetOf({ 'box.glb': bytes }), { decoders });
  const { bounds, parts } = prepareModel(raw, { unitMm: 1000, upAxis: 'y' });
  expect(parts[0].surfaces).toHaveLength(6);
  return bounds.max.map((v, i) => Math.round((v - bounds.min[i]) / 10) * 10);
}

test('Draco', async () => {
  const document = boxDocument();
  document.createExtension(KHRDracoMeshCompression).setRequired(true);
  await document.transform(weld(), dedup());
  const io = new WebIO()
    .registerExtensions([KHRDracoMeshCompression])
    .registerDependencies({ 'draco3d.encoder': await draco3d.createEncoderModule() });
  expect(await sizeOf(await io.writeBinary(document))).toEqual([4000, 3000, 5000]);
});

test('Meshopt, quantised', async () => {
  await MeshoptEncoder.ready;
  const document = boxDocument();
  await document.transform(meshopt({ encoder: MeshoptEncoder, level: 'medium' }));
  const io = new WebIO()
    .registerExtensions([
      EXTMeshoptCompression,
      ...document
        .getRoot()
        .listExtensionsUsed()
        .map((e) => e.constructor as typeof EXTMeshoptCompression),
    ])
    .registerDependencies({ 'meshopt.encoder': MeshoptEncoder });
  const bytes = await io.writeBinary(document);
  const json = JSON.parse(
    new TextDecoder().decode(bytes.subarray(20, 20 + new DataView(bytes.buffer, bytes.byteOffset).getUint32(12, true))),
  ) as JSONDocument['json'];
  expect(json.extensionsUsed).toEqual(expect.arrayContaining(['EXT_meshopt_compression', 'KHR_mesh_quantization']));
  expect(await sizeOf(bytes)).toEqual([4000, 3000, 5000]);
});
