import type { Slot } from '../../mesh/types';

/** Which statement names which map. `map_Pr` and `map_Pm` are the common physically based additions. */
const PICTURES: Record<string, string> = {
  map_kd: 'baseColour',
  map_d: 'opacity',
  map_ke: 'emission',
  norm: 'normal',
  map_kn: 'normal',
  map_bump: 'height',
  bump: 'height',
  disp: 'height',
  map_pr: 'roughness',
  map_pm: 'metallic',
};

/** How many words follow each option of a picture statement. */
const OPTION_WORDS: Record<string, number> = {
  '-s': 3,
  '-o': 3,
  '-t': 3,
  '-mm': 2,
  '-bm': 1,
  '-blendu': 1,
  '-blendv': 1,
  '-cc': 1,
  '-clamp': 1,
  '-imfchan': 1,
  '-texres': 1,
  '-boost': 1,
  '-type': 1,
  '-colorspace': 1,
};

/** Reads an MTL library: slot name → what is known of it. Unknown statements are passed over. */
export function parseMtl(text: string): Map<string, Omit<Slot, 'name'>> {
  const library = new Map<string, Omit<Slot, 'name'>>();
  let slot: Omit<Slot, 'name'> | null = null;
  for (const raw of text.split(/\r?\n/)) {
    const row = raw.replace(/#.*$/, '').trim();
    const [, word = '', rest = ''] = /^(\S+)\s*(.*)$/.exec(row) ?? [];
    const statement = word.toLowerCase();
    if (statement === 'newmtl') {
      slot = { colour: [0.8, 0.8, 0.8, 1], pictures: {}, twoSided: false };
      library.set(rest, slot);
      continue;
    }
    if (!slot) continue;
    const numbers = rest.split(/\s+/).map(Number);
    if (statement === 'kd' && numbers.slice(0, 3).every(Number.isFinite) && numbers.length >= 3) {
      slot.colour = [numbers[0], numbers[1], numbers[2], slot.colour[3]];
    } else if (statement === 'd' && Number.isFinite(numbers.at(-1))) slot.colour[3] = numbers.at(-1)!;
    else if (statement === 'tr' && Number.isFinite(numbers[0])) slot.colour[3] = 1 - numbers[0];
    else if (statement === 'pr' && Number.isFinite(numbers[0])) slot.roughness = numbers[0];
    else if (statement === 'pm' && Number.isFinite(numbers[0])) slot.metallic = numbers[0];
    else if (statement === 'pc' && Number.isFinite(numbers[0])) slot.coat = numbers[0];
    else if (statement === 'pcr' && Number.isFinite(numbers[0])) slot.coatRoughness = numbers[0];
    else if (PICTURES[statement]) {
      const { file, scale } = readPicture(rest);
      if (!file) continue;
      slot.pictures[PICTURES[statement]] = file;
      if (scale) slot.textureScale = scale;
    }
  }
  return library;
}

/** A file name may hold spaces; everything after the options is the name. */
function readPicture(rest: string): { file: string; scale?: [number, number] } {
  const words = rest.split(/\s+/);
  let scale: [number, number] | undefined;
  let i = 0;
  while (i < words.length && OPTION_WORDS[words[i].toLowerCase()] !== undefined) {
    const option = words[i].toLowerCase();
    const most = OPTION_WORDS[option];
    let taken = 0;
    // options of three numbers may be given fewer
    while (taken < most && i + 1 + taken < words.length - 1) {
      if (most === 3 && taken > 0 && !Number.isFinite(Number(words[i + 1 + taken]))) break;
      taken++;
    }
    if (option === '-s') scale = [Number(words[i + 1]) || 1, Number(words[i + 2]) || Number(words[i + 1]) || 1];
    i += 1 + taken;
  }
  return { file: words.slice(i).join(' '), scale };
}
