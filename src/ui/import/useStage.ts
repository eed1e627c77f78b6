'use client';

import { type RefObject, useEffect, useRef } from 'react';
import type { ModelStage } from './ModelStage';

/** A stage as long as its canvas is there, as large as what it stands in. */
export function useStage<S extends ModelStage>(
  make: (canvas: HTMLCanvasElement) => S,
): {
  stage: RefObject<S | null>;
  canvas: RefObject<HTMLCanvasElement | null>;
  host: RefObject<HTMLDivElement | null>;
} {
  const canvas = useRef<HTMLCanvasElement>(null);
  const host = useRef<HTMLDivElement>(null);
  const stage = useRef<S | null>(null);
  const first = useRef(make);
  useEffect(() => {
    const made = first.current(canvas.current!);
    stage.current = made;
    const observer = new ResizeObserver(([e]) => made.resize(e.contentRect.width, e.contentRect.height));
    observer.observe(host.current!);
    return () => {
      observer.disconnect();
      made.dispose();
    };
  }, []);
  return { stage, canvas, host };
}
