/** Which face lies across each edge. */
export interface Adjacency {
  /** Three per face: the face across edge k (from corner k to corner k + 1), or −1 at a border or a crowded edge. */
  across: Int32Array;
  /** Edges with more than two faces. */
  crowded: number;
  /** Neighbouring faces that run round their shared edge in the same sense: one of them is inside-out. */
  disagreeing: number;
}

/**
 * @param indices three welded vertices per face
 * @param vertexCount one more than the largest index
 */
export function findNeighbours(indices: Uint32Array, vertexCount: number): Adjacency {
  const edges = indices.length;
  const across = new Int32Array(edges).fill(-1);
  // half-edges chained by their smaller vertex; chains are short (about three), so a scan beats any hash
  const head = new Int32Array(vertexCount).fill(-1);
  const next = new Int32Array(edges);
  const other = new Uint32Array(edges);
  for (let e = 0; e < edges; e++) {
    const a = indices[e];
    const b = indices[e % 3 === 2 ? e - 2 : e + 1];
    const low = a < b ? a : b;
    other[e] = a < b ? b : a;
    next[e] = head[low];
    head[low] = e;
  }
  let crowded = 0;
  let disagreeing = 0;
  for (let v = 0; v < vertexCount; v++) {
    for (let e = head[v]; e >= 0; e = next[e]) {
      if (across[e] !== -1) continue;
      let match = -1;
      let more = false;
      for (let f = next[e]; f >= 0; f = next[f]) {
        if (other[f] !== other[e] || across[f] !== -1) continue;
        if (match >= 0) more = true;
        else match = f;
      }
      if (match < 0) continue;
      if (more) {
        crowded++;
        // −2 while the chain is walked, so that none of the crowd is counted twice
        for (let f = e; f >= 0; f = next[f]) if (other[f] === other[e]) across[f] = -2;
        continue;
      }
      across[e] = Math.floor(match / 3);
      across[match] = Math.floor(e / 3);
      if (indices[e] === indices[match]) disagreeing++;
    }
  }
  for (let e = 0; e < edges; e++) if (across[e] === -2) across[e] = -1;
  return { across, crowded, disagreeing };
}

/** Numbers the groups of faces that hang together, or only where `joined(edge)` says so. */
export function labelGroups(
  { across }: Pick<Adjacency, 'across'>,
  faceTotal: number,
  joined?: (edge: number, face: number, neighbour: number) => boolean,
): { labels: Int32Array; count: number } {
  const labels = new Int32Array(faceTotal).fill(-1);
  const stack = new Int32Array(faceTotal);
  let count = 0;
  for (let seed = 0; seed < faceTotal; seed++) {
    if (labels[seed] >= 0) continue;
    let top = 0;
    stack[top++] = seed;
    labels[seed] = count;
    while (top) {
      const face = stack[--top];
      for (let k = 0; k < 3; k++) {
        const neighbour = across[face * 3 + k];
        if (neighbour < 0 || labels[neighbour] >= 0) continue;
        if (joined && !joined(face * 3 + k, face, neighbour)) continue;
        labels[neighbour] = count;
        stack[top++] = neighbour;
      }
    }
    count++;
  }
  return { labels, count };
}
