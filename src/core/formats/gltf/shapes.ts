type Fail = (reason: string) => never;
type Loose = Record<string, unknown>;

const LISTS = [
  'scenes',
  'nodes',
  'meshes',
  'accessors',
  'bufferViews',
  'buffers',
  'images',
  'textures',
  'samplers',
  'materials',
  'cameras',
  'skins',
  'animations',
];
const isObject = (v: unknown): v is Loose => typeof v === 'object' && v !== null && !Array.isArray(v);
const isNumbers = (v: unknown) => Array.isArray(v) && v.every((n) => typeof n === 'number');

/** What a field of a list's objects must be, where it is there at all. */
const FIELDS: Record<string, Record<string, [(v: unknown) => boolean, string]>> = {
  scenes: { nodes: [isNumbers, 'a list of numbers'] },
  nodes: {
    children: [isNumbers, 'a list of numbers'],
    translation: [(v) => isNumbers(v) && (v as unknown[]).length === 3, 'three numbers'],
    rotation: [(v) => isNumbers(v) && (v as unknown[]).length === 4, 'four numbers'],
    scale: [(v) => isNumbers(v) && (v as unknown[]).length === 3, 'three numbers'],
    matrix: [(v) => isNumbers(v) && (v as unknown[]).length === 16, 'sixteen numbers'],
    extensions: [isObject, 'an object'],
  },
  meshes: { primitives: [(v) => Array.isArray(v) && v.every(isObject), 'a list of objects'] },
  bufferViews: { extensions: [isObject, 'an object'] },
  buffers: { uri: [(v) => typeof v === 'string', 'text'], extensions: [isObject, 'an object'] },
  images: { uri: [(v) => typeof v === 'string', 'text'], mimeType: [(v) => typeof v === 'string', 'text'] },
  accessors: {
    sparse: [(v) => isObject(v) && isObject(v.indices) && isObject(v.values), 'an object with indices and values'],
  },
  materials: { pbrMetallicRoughness: [isObject, 'an object'], extensions: [isObject, 'an object'] },
};

/**
 * Holds a file's JSON against the shapes that everything after relies on: lists are lists, objects objects.
 * @throws whatever `fail` throws, naming the field
 */
export function checkShapes(json: Loose, fail: Fail): void {
  for (const key of LISTS) {
    const list = json[key];
    if (list === undefined) continue;
    if (!Array.isArray(list)) fail(`“${key}” is no list`);
    (list as unknown[]).forEach((item, n) => {
      if (!isObject(item)) return fail(`“${key}.${n}” is no object`);
      for (const [field, [fits, wanted]] of Object.entries(FIELDS[key] ?? {}))
        if (item[field] !== undefined && !fits(item[field])) fail(`“${key}.${n}.${field}” must be ${wanted}`);
    });
  }
  for (const key of ['extensionsUsed', 'extensionsRequired']) {
    const list = json[key];
    if (list !== undefined && !(Array.isArray(list) && list.every((e) => typeof e === 'string')))
      fail(`“${key}” must be a list of names`);
  }
  if (json.extensions !== undefined && !isObject(json.extensions)) fail('“extensions” must be an object');
  (json.meshes as { primitives?: Loose[] }[] | undefined)?.forEach(({ primitives = [] }, m) =>
    primitives.forEach(({ attributes }, n) => {
      if (attributes !== undefined && !isObject(attributes))
        fail(`“meshes.${m}.primitives.${n}.attributes” must be an object`);
    }),
  );
}

/** Nodes within nodes: more is no model, and would be walked for ever. */
const MOST_DEPTH = 256;
export const MOST_NODES = 200_000;

/** A node hangs under one other at most, none under itself, and none too deep. */
export function checkTree(nodes: readonly Loose[], fail: Fail): void {
  if (nodes.length > MOST_NODES) fail(`it has ${nodes.length} nodes; at most ${MOST_NODES} are read`);
  const parents = new Int32Array(nodes.length).fill(-1);
  nodes.forEach((node, i) => {
    for (const child of (node.children as number[] | undefined) ?? []) {
      if (parents[child] >= 0) fail(`node ${child} hangs under two others`);
      parents[child] = i;
    }
  });
  // from each node up to one whose depth is known
  const depths = new Int32Array(nodes.length).fill(-1);
  for (let i = 0; i < nodes.length; i++) {
    let steps = 0;
    let at = i;
    while (at >= 0 && depths[at] < 0) {
      if (++steps > nodes.length) fail('its nodes form a loop');
      at = parents[at];
    }
    let depth = (at >= 0 ? depths[at] : 0) + steps;
    if (depth > MOST_DEPTH) fail(`its nodes lie ${depth} deep in one another; at most ${MOST_DEPTH} are read`);
    for (let p = i; p !== at; p = parents[p]) depths[p] = depth--;
  }
}
