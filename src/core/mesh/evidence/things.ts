import type { SizeRange } from './likely';

/** Which of its sizes a thing is known by: from foot to head, the longest, the longer of the two level ones. */
export type KnownBy = 'height' | 'longest' | 'across';

export interface Thing {
  /** What people and files call it, in a few languages. */
  words: readonly string[];
  by: KnownBy;
  sizes: readonly SizeRange[];
  /** How it stands: higher than wide, on an edge (its thinnest way is level), or lying flat. */
  stands?: 'tall' | 'upright' | 'flat';
}

const thing = (words: string, by: KnownBy, sizes: SizeRange[], stands?: Thing['stands']): Thing => ({
  words: words.split(' '),
  by,
  sizes,
  stands,
});

/** Things whose size people agree on, millimetres. */
export const THINGS: readonly Thing[] = [
  thing('door doors tür tuer türen porte puerta porta doorway', 'height', [[1950, 2450, 0.85]], 'upright'),
  thing('window windows fenster fenêtre fenetre ventana', 'height', [[450, 2200, 0.85]], 'upright'),
  thing(
    'wall walls wand wände mauer mur pared',
    'height',
    [
      [2200, 4500, 0.6],
      [800, 12000, 0.3],
    ],
    'upright',
  ),
  thing(
    'floor floors ceiling slab boden decke ground paving deck plancher sol suelo',
    'across',
    [
      [2500, 25000, 0.7],
      [25000, 200000, 0.15],
    ],
    'flat',
  ),
  thing('roof dach toit techo', 'across', [[4000, 40000, 0.85]]),
  thing('room bathroom kitchen bedroom lobby bad badezimmer küche zimmer raum salon', 'height', [[2250, 4200, 0.85]]),
  thing('house cottage bungalow villa cabin haus maison casa home', 'height', [[3500, 14000, 0.85]]),
  thing('building office school hotel hospital gebäude gebaeude hall halle church kirche barn', 'height', [
    [5000, 60000, 0.85],
  ]),
  thing('tower turm tour torre skyscraper highrise lighthouse chimney', 'height', [[12000, 200000, 0.85]], 'tall'),
  thing('bridge brücke bruecke pont puente', 'longest', [[15000, 800000, 0.85]]),
  thing('viaduct aqueduct viadukt viaduc', 'longest', [[50000, 1200000, 0.85]]),
  thing('street road avenue strasse straße rue calle', 'longest', [[30000, 1000000, 0.85]]),
  thing('town city village district site campus terrain landscape stadt', 'longest', [[60000, 8000000, 0.85]]),
  thing('column pillar säule saeule colonne pier', 'height', [[2000, 9000, 0.8]], 'tall'),
  thing('stair stairs staircase treppe escalier', 'height', [[500, 4500, 0.85]]),
  thing('railing handrail balustrade parapet geländer', 'height', [[800, 1300, 0.8]]),
  thing('fence zaun hedge', 'height', [[700, 2600, 0.8]]),
  thing('kerb curb bordstein', 'height', [[80, 320, 0.8]]),
  thing('chair stuhl chaise silla armchair sessel', 'height', [[700, 1150, 0.9]]),
  thing('stool hocker tabouret', 'height', [[400, 850, 0.85]]),
  thing('bench bank banc', 'height', [[400, 1050, 0.8]]),
  thing('sofa couch settee', 'across', [[1300, 3200, 0.85]]),
  thing('table tisch mesa desk schreibtisch', 'height', [
    [680, 790, 0.7],
    [330, 560, 0.15],
  ]),
  thing('counter worktop theke bar', 'height', [[820, 1180, 0.8]]),
  thing('bed bett lit cama', 'longest', [[1850, 2350, 0.85]]),
  thing('cupboard wardrobe cabinet schrank armoire', 'height', [[500, 2700, 0.85]]),
  thing('shelf shelves bookcase bookshelf regal', 'height', [[250, 2500, 0.85]]),
  thing('basin washbasin sink waschbecken lavabo', 'across', [[350, 950, 0.85]]),
  thing('toilet wc lavatory', 'height', [[350, 900, 0.85]]),
  thing('bath bathtub tub badewanne baignoire', 'longest', [[1350, 1950, 0.85]]),
  thing('lamp lantern leuchte lampe', 'longest', [[150, 1900, 0.8]]),
  thing('wheel tyre tire rim rad roue rueda', 'longest', [[330, 760, 0.8]], 'upright'),
  thing('bicycle bike fahrrad velo', 'longest', [[1450, 1950, 0.85]]),
  thing('car auto sedan voiture coche', 'longest', [[3300, 5300, 0.85]]),
  thing('van lieferwagen', 'longest', [[4200, 7000, 0.85]]),
  thing('bus lorry truck lastwagen', 'longest', [[5000, 18500, 0.85]]),
  thing('boat bateau', 'longest', [[2500, 25000, 0.8]]),
  thing('person human man woman people mensch mann frau', 'height', [[1450, 1980, 0.85]], 'tall'),
  thing(
    'statue sculpture figure skulptur',
    'height',
    [
      [1400, 3200, 0.55],
      [250, 9000, 0.35],
    ],
    'tall',
  ),
  thing('tree baum arbre', 'height', [[2500, 28000, 0.85]]),
  thing('brick ziegel brique', 'longest', [[185, 300, 0.85]]),
  thing('bolt screw nut washer schraube mutter', 'longest', [[5, 180, 0.85]]),
  thing(
    'gear cog pinion flange bearing bracket shaft bushing valve coupling crank piston sprocket manifold ' +
      'impeller machine maschinenteil zahnrad flansch lager welle',
    'longest',
    [[15, 600, 0.85]],
  ),
  thing('engine motor', 'longest', [[250, 2500, 0.8]]),
  thing('cup mug tasse', 'height', [[55, 140, 0.85]]),
  thing('bottle flasche bouteille', 'height', [[140, 380, 0.85]], 'tall'),
  thing('plate dish teller', 'across', [[140, 360, 0.85]], 'flat'),
  thing('bowl schale', 'across', [[80, 400, 0.85]]),
  thing('teapot kettle jug kanne', 'height', [[100, 350, 0.85]]),
  thing('vase', 'height', [[100, 700, 0.85]]),
  thing('book buch livre', 'longest', [[150, 380, 0.85]]),
  thing('laptop keyboard', 'across', [[250, 500, 0.85]]),
  thing('monitor television tv', 'across', [[400, 1700, 0.85]]),
  thing('shoe schuh', 'longest', [[180, 350, 0.8]]),
];

/** A thing's part is not the thing: the handle of a door, the leg of a chair. */
const PART_OF = new Set(
  (
    'handle leg legs frame knob arm back top hinge lock glass pane panel trim jamb seat foot stand base hub spoke ' +
    'head line plan shade cap cover'
  ).split(' '),
);

const byWord = new Map(THINGS.flatMap((t) => t.words.map((w) => [w, t] as const)));
const longWords = [...byWord.keys()].filter((w) => w.length >= 5);

/**
 * The thing a name speaks of: by its last word that says anything (“Boat door 02”), whole or at the end of a compound.
 * @example thingNamed('Boat door 02')?.words[0] // 'door'
 */
export function thingNamed(name: string): Thing | null {
  const words = name
    .replace(/([a-zäöü])([A-ZÄÖÜ])/g, '$1 $2')
    .toLowerCase()
    .split(/[^\p{L}]+/u)
    .filter((w) => w.length > 1 && !/^(mesh|geo|geometry|grp|group|low|high|obj|lod|left|right|main|object)$/.test(w));
  const last = words.at(-1);
  if (!last) return null;
  const whole = byWord.get(last);
  // “house” is a thing of its own, and part of none when it stands alone
  if (whole) return whole;
  if (words.length > 1 && PART_OF.has(last)) return null;
  const end = longWords.find((w) => last.endsWith(w));
  if (end) return byWord.get(end)!;
  // “machine part”, “chair old”: nothing is known of the last word, the one before it says what it is
  return words.length > 1 ? (byWord.get(words.at(-2)!) ?? null) : null;
}
