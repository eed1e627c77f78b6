'use client';

import { Box } from 'lucide-react';
import { useEffect, useRef, useState } from 'react';
import { toast } from 'sonner';
import type { Vector3 } from 'three';
import type { Preview } from '@/api/answers';
import { readJoins, readMeshes } from '@/core/formats/meshFile';
import { formatLength } from '@/core/units/length';
import { useProject } from '../project/projectStore';
import { messageOf, urlOf } from '../shared/api';
import { useThemeColours } from '../shared/themeColours';
import { PreviewStage } from './PreviewStage';
import { useStage } from './useStage';

/** The model as it would come in; two clicks measure. */
export function Stage({
  preview,
  version,
  scale,
  onMeasured,
}: {
  preview: Preview;
  version: number;
  scale: number;
  onMeasured: (mm: number | null) => void;
}) {
  const points = useRef<Vector3[]>([]);
  const pressed = useRef<[number, number] | null>(null);
  const colours = useThemeColours();
  const [loading, setLoading] = useState(true);
  const [drawing, setDrawing] = useState(false);
  const { stage, canvas, host } = useStage((on) => new PreviewStage(on, setDrawing));
  const unit = useProject((s) => s.project!.unit);
  const [distance, setDistance] = useState<number | null>(null);

  useEffect(() => {
    let stale = false;
    setLoading(true);
    points.current = [];
    setDistance(null);
    onMeasured(null);
    fetch(urlOf('GET /api/uploads/{id}/mesh', { id: preview.upload }))
      .then(async (r) => new Uint8Array(await r.arrayBuffer()))
      .then((bytes) => {
        if (stale) return;
        const drawn = { background: colours.cloth, arris: colours.ink, open: colours.thread };
        stage.current?.show(readMeshes(bytes), readJoins(bytes), drawn);
        setLoading(false);
      })
      .catch((e: unknown) => toast.error('The model cannot be shown', { description: messageOf(e) }));
    return () => {
      stale = true;
    };
  }, [preview.upload, version, colours, onMeasured, stage]);

  function click(x: number, y: number) {
    const p = stage.current?.pick(x, y);
    if (!p) return;
    points.current = points.current.length === 2 ? [p] : [...points.current, p];
    stage.current?.mark(points.current, colours.thread);
    const mm = points.current.length === 2 ? points.current[0].distanceTo(points.current[1]) : null;
    setDistance(mm);
    onMeasured(mm);
  }

  return (
    <section
      aria-label="Preview"
      aria-busy={loading || drawing}
      ref={host}
      className="relative min-w-0 flex-1 bg-base-200"
    >
      <canvas
        ref={canvas}
        data-testid="preview-canvas"
        className="absolute inset-0 h-full w-full touch-none"
        onPointerDown={(e) => (pressed.current = [e.clientX, e.clientY])}
        onPointerUp={(e) => {
          const start = pressed.current;
          if (!start || Math.hypot(e.clientX - start[0], e.clientY - start[1]) > 4) return;
          const rect = e.currentTarget.getBoundingClientRect();
          click(e.clientX - rect.left, e.clientY - rect.top);
        }}
      />
      <p className="card-panel on-canvas quiet left-3 flex items-center gap-2">
        <Box size={13} />
        {distance !== null ? (
          <span className="num text-base-content">{formatLength(distance * scale, unit)} between the points</span>
        ) : (
          'Drag to turn. Click two points to measure.'
        )}
      </p>
    </section>
  );
}
