'use client';

import { Blocks, Image, PencilRuler } from 'lucide-react';
import Link from 'next/link';
import { useParams } from 'next/navigation';
import { useEffect, useMemo, useRef, useState } from 'react';
import type { OwnModule } from '@/core/layout/own/module';
import { layOwn, own } from '@/core/layout/own/own';
import { layoutOf, LAYOUTS } from '@/core/layout/registry';
import type { LayoutSpec } from '@/core/layout/schema';
import type { Layout, Trade } from '@/core/layout/types';
import { aroundOf } from '@/core/mapping/schema';
import type { Spec } from '@/core/specification/schema';
import { useModules } from '../../modules/useModules';
import { useProject } from '../../project/projectStore';
import { Menu } from '../../shared/Menu';
import type { Laid } from '../useBench';
import { becomeLayout, type LayoutChoice, presetOf } from './becomeLayout';
import { BondDrawing } from './BondDrawing';

const ALL = LAYOUTS as readonly unknown[] as readonly Layout<LayoutSpec>[];

/** In the order in which the picker shows them. */
export const TRADES: readonly (readonly [Trade, string])[] = [
  ['none', 'As it is'],
  ['planks', 'Boards and staves'],
  ['brick', 'Brick'],
  ['tile', 'Tile'],
  ['stone', 'Stone'],
  ['round', 'Round'],
  ['own', 'Of one’s own'],
];

/** One drawing of the picker: a layout as it starts, or a module of the library in it. */
interface Offered extends LayoutChoice {
  key: string;
  label: string;
  layout: Layout<LayoutSpec>;
}

const PRESETS: readonly Offered[] = ALL.map((layout) => ({
  key: layout.takenFrom?.(layout.preset.spec) ?? layout.kind,
  label: layout.label,
  layout,
  ...layout.preset,
}));

/** What is taken from the library, among the layouts. */
const offerModules = (modules: readonly OwnModule[]): Offered[] =>
  modules.map((module) => {
    const { joint } = presetOf(own.kind);
    return {
      key: module.id,
      label: module.name,
      layout: layoutOf<LayoutSpec>(layOwn(module)),
      spec: layOwn(module),
      joint,
    };
  });

/** Those whose name, other names or pieces hold every word that is looked for. */
export function findLayouts(query: string, offered: readonly Offered[] = PRESETS): readonly Offered[] {
  const words = query.toLowerCase().split(/\s+/).filter(Boolean);
  const textOf = ({ label, spec, layout: { also = [], roles, rolesOf, trade } }: Offered) =>
    [label, ...also, ...(rolesOf?.(spec) ?? roles), TRADES.find(([t]) => t === trade)![1]].join(' ').toLowerCase();
  return offered.filter((l) => words.every((w) => textOf(l).includes(w)));
}

/**
 * Layouts as small drawings in true proportion, by trade. Resting on one shows it on the picked surfaces before it is
 * taken.
 */
export function LayoutPicker({
  laid,
  kind,
  children,
  onTake,
}: {
  laid: readonly Laid[];
  kind: string | null;
  /** What the button shows. */
  children: React.ReactNode;
  onTake: (choice: LayoutChoice) => void;
}) {
  return (
    <Menu
      className="block h-full w-full cursor-pointer rounded-[4px] hover:outline-2 hover:outline-accent"
      align="right"
      up
      title="Choose a layout from drawings"
      label={children}
    >
      {(close) => (
        <Drawings
          laid={laid}
          kind={kind}
          onTake={(next) => {
            onTake(next);
            close();
          }}
        />
      )}
    </Menu>
  );
}

function Drawings({ laid, kind, onTake }: Pick<Parameters<typeof LayoutPicker>[0], 'laid' | 'kind' | 'onTake'>) {
  const [query, setQuery] = useState('');
  const { data: library } = useModules();
  const offered = useMemo(() => [...PRESETS, ...offerModules(library?.map((l) => l.module) ?? [])], [library]);
  const found = useMemo(() => findLayouts(query, offered), [query, offered]);
  const { id } = useParams<{ id: string }>();
  const show = useTrial(laid);
  const drawn = useMoreEachFrame(offered.length);
  const goesRound = laid.some((l) => aroundOf(l.spec.mapping));
  return (
    <div className="w-[21rem] space-y-2 p-2" onPointerLeave={() => show(null)}>
      <input
        className="field w-full"
        type="search"
        aria-label="Find a layout"
        placeholder="Find a layout: parquet, cobbles, dot …"
        autoFocus
        value={query}
        onChange={(e) => setQuery(e.target.value)}
      />
      {TRADES.map(([trade, title]) => {
        const mine = found.filter((l) => l.layout.trade === trade);
        return mine.length || trade === 'own' ? (
          <section key={trade} aria-label={title}>
            <h3 className="quiet mb-1 text-2xs">{title}</h3>
            <div className="grid grid-cols-4 items-start gap-1.5">
              {mine.map((offer) => (
                <button
                  key={offer.key}
                  type="button"
                  aria-pressed={offer.key === kind}
                  className="group min-w-0 cursor-pointer text-left"
                  onPointerEnter={() => show(offer)}
                  onFocus={() => show(offer)}
                  onClick={() => onTake(offer)}
                >
                  <span className={FRAME}>
                    <Drawing offer={offer} isDrawn={offered.indexOf(offer) < drawn} />
                  </span>
                  <span className="mt-0.5 block text-2xs leading-tight">{offer.label}</span>
                  {goesRound && offer.layout.cells === 'laid' && !offer.layout.round && (
                    <span className="quiet block text-2xs leading-tight">keeps its size round</span>
                  )}
                </button>
              ))}
            </div>
            {trade === 'own' && (
              <Link href={`/projects/${id}/modules`} className="tool mt-1.5">
                <PencilRuler size={14} /> Bring in a drawing
              </Link>
            )}
          </section>
        ) : null;
      })}
      {!found.length && (
        <p className="quiet text-2xs">No layout is called that. Try the trade, or what it looks like.</p>
      )}
    </div>
  );
}

/** Of a drawing: marked under the hand, and where it is what lies there now. */
const FRAME =
  'block aspect-square rounded-[4px] outline-offset-1 outline-accent group-hover:outline-2 ' +
  'group-aria-pressed:outline-2 group-aria-pressed:outline-base-content';

function Drawing({ offer: { layout, spec, joint }, isDrawn }: { offer: Offered; isDrawn: boolean }) {
  if (layout.cells === 'laid' && isDrawn) return <BondDrawing layout={spec} joint={joint} />;
  const Sign = layout.cells === 'bodies' ? Blocks : Image;
  return (
    <span className="quiet grid h-full w-full place-items-center rounded-[4px] border border-base-300 bg-base-300/40">
      {layout.cells !== 'laid' && <Sign size={22} strokeWidth={1.25} aria-hidden />}
    </span>
  );
}

/** Shows the picked surfaces in another layout while one rests on it; nothing is changed. */
function useTrial(laid: readonly Laid[]): (choice: LayoutChoice | null) => void {
  const setPreview = useProject((s) => s.setPreview);
  const timer = useRef<ReturnType<typeof setTimeout> | undefined>(undefined);
  useEffect(
    () => () => {
      clearTimeout(timer.current);
      setPreview({});
    },
    [setPreview],
  );
  return (choice) => {
    clearTimeout(timer.current);
    const specs = (): Record<string, Spec> =>
      choice ? Object.fromEntries(laid.map((l) => [l.surface.id, becomeLayout(l.spec, choice)])) : {};
    timer.current = setTimeout(() => setPreview(specs()), REST_MS);
  };
}

/** How long the pointer rests on a drawing before the surface shows it. */
const REST_MS = 160;

/** Counts up, a few more in each frame: so many drawings at once would hold the hand. */
function useMoreEachFrame(count: number): number {
  const [shown, setShown] = useState(4);
  useEffect(() => {
    if (shown >= count) return;
    const frame = requestAnimationFrame(() => setShown(shown + 4));
    return () => cancelAnimationFrame(frame);
  }, [shown, count]);
  return shown;
}
