import { type Figures, type SeamShare } from '../material/schema';
import { hash } from '../noise/hash';
import { type SeamFigure, shows, worstOf } from '../picture/judge';
import { UNEVENLY_SHARP } from '../picture/sharpness';
import { BROKEN } from '../picture/strangeness';
import type { Verdict } from './judge';
import type { Prep } from './schema';

const inHundred = (share: number): number => Math.round(share * 100);
const asShare = (f: SeamFigure): SeamShare => ({ share: inHundred(f.percentile) / 100, shows: shows(f) });

/** A verdict in the figures that are kept and compared. @param seam of the picture that was judged */
export const figuresOf = ({ wrap, framed, broken, sharpness, faults }: Verdict, seam: SeamFigure | null): Figures => ({
  edge: framed ? null : asShare(worstOf([wrap.across, wrap.down])),
  seam: seam && asShare(seam),
  broken: inHundred(framed ? broken.seam : Math.max(broken.edge, broken.seam)) / 100,
  sharpness: Math.round(2 ** sharpness * 10) / 10,
  faults,
});

/** From here on a figure of the full size is spoken of: of 100 lines or places, and in times as sharp. */
const NOTED = { lines: 10, places: 4, sharper: 0.3 };

/** What the figures of the full size have that those of the smaller picture have not, each as a clause. */
export function differencesOf(shown: Figures, full: Figures): string[] {
  const said: string[] = [];
  const line = (name: string, a: SeamShare | null, b: SeamShare | null) => {
    if (!b || (a && a.shows === b.shows && Math.abs(inHundred(a.share) - inHundred(b.share)) < NOTED.lines)) return;
    said.push(`${name} ${inHundred(b.share)} of 100 lines (${b.shows ? 'it shows' : 'not to be found'})`);
  };
  line('over the edge', shown.edge, full.edge);
  line('along the seam', shown.seam, full.seam);
  const [a, b] = [inHundred(shown.broken), inHundred(full.broken)];
  if (Math.abs(a - b) >= NOTED.places || a > inHundred(BROKEN) !== b > inHundred(BROKEN))
    said.push(`broken lines at ${b} of 100 places`);
  const soft = (f: Figures) => f.sharpness > 2 ** UNEVENLY_SHARP;
  if (Math.abs(shown.sharpness - full.sharpness) >= NOTED.sharper || soft(shown) !== soft(full))
    said.push(`${full.sharpness.toFixed(1)} times as sharp from place to place`);
  return said;
}

/** Names what a picture is made by, so that figures are told from those of other steps: eight hexadecimal digits. */
export function stepsMark({ picture, pixelsPerInch, steps, derived, given }: Prep): string {
  const made = steps.filter((s) => s.on).map(({ id: _id, ...rest }) => rest);
  // dirt and colour by height go by the given one, where none is derived
  const heights = given.maps.height && !derived.height ? [given.maps.height.image] : [];
  const named = steps.filter((s) => s.on).findIndex((s) => s.id === derived.taken?.height);
  const text = JSON.stringify([
    picture.image,
    pixelsPerInch,
    made,
    derived.height,
    ...heights,
    ...(named < 0 ? [] : [named]),
  ]);
  let h = 0;
  for (let i = 0; i < text.length; i++) h = hash(h, text.charCodeAt(i), i, 0);
  return h.toString(16).padStart(8, '0');
}
