'use client';

import { useLayoutEffect, useRef } from 'react';
import { FinishCard } from '../cards/FinishCard';
import { MappingCard } from '../cards/MappingCard';
import { MaterialCard } from '../cards/MaterialCard';
import { PiecesCard } from '../cards/PiecesCard';
import { RepeatCard } from '../cards/RepeatCard';
import { StartCard } from '../cards/StartCard';
import { VariationCard } from '../cards/VariationCard';
import { DrivingContext } from '../../shared/driving';
import { useDriving } from '../driving';
import { useBench } from '../useBench';
import { WearCard } from '../wear/WearCard';
import { useBenchFold } from './benchStore';

/** Where specs are edited: a folding rule, its segments in the order of work. */
export function Bench() {
  const ref = useRef<HTMLElement>(null);
  const setRoom = useBenchFold((s) => s.setRoom);
  const driving = useDriving(useBench().laid);
  useLayoutEffect(() => {
    const bench = ref.current!;
    const measure = () => setRoom(bench.clientWidth - 16);
    measure();
    const observer = new ResizeObserver(measure);
    observer.observe(bench);
    return () => observer.disconnect();
  }, [setRoom]);
  return (
    <DrivingContext.Provider value={driving}>
      <section ref={ref} aria-label="Bench" className="bench">
        <MaterialCard />
        <MappingCard />
        <RepeatCard />
        <StartCard />
        <PiecesCard />
        <VariationCard />
        <FinishCard />
        <WearCard />
      </section>
    </DrivingContext.Provider>
  );
}
