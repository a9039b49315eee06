import { useEffect, useLayoutEffect, useRef } from 'react';
import Pad, { type PointGroup } from 'signature_pad';
import { t } from '../texts';

/** Points of each stroke, x and y in turn, as shares of a field twice as wide as high: 0 to 2 and 0 to 1. */
export type Strokes = number[][];

const drawn = (pad: Pad, height: number): Strokes =>
  pad.toData().map((stroke) => stroke.points.flatMap((p) => [Number((p.x / height).toFixed(4)), Number((p.y / height).toFixed(4))]));

/** As the pad draws them; the hand's pace is not kept, so that every stroke is of one breadth. */
const toDraw = (strokes: Strokes, height: number, pen: Omit<PointGroup, 'points'>): PointGroup[] =>
  strokes.map((stroke) => ({
    ...pen,
    points: Array.from({ length: stroke.length / 2 }, (_, i) => ({
      x: stroke[2 * i] * height,
      y: stroke[2 * i + 1] * height,
      pressure: 0.5,
      time: i * 20,
    })),
  }));

/** A field to sign in, with pen, finger or mouse. What was drawn before stands in it until it is cleared, whatever size the field takes. */
export function SignaturePad({ label, strokes, onChange }: { label: string; strokes: Strokes; onChange: (strokes: Strokes) => void }) {
  const canvas = useRef<HTMLCanvasElement>(null);
  const pad = useRef<Pad>(undefined);
  const latest = useRef({ strokes, onChange });
  useLayoutEffect(() => {
    latest.current = { strokes, onChange };
    if (strokes.length === 0 && pad.current && !pad.current.isEmpty()) pad.current.clear();
  });
  useEffect(() => {
    const field = canvas.current!;
    const pen = { penColor: getComputedStyle(field).color, minWidth: 0.9, maxWidth: 2.2, dotSize: 0, velocityFilterWeight: 0.7 };
    const made = (pad.current = new Pad(field, { ...pen, throttle: 8 }));
    // Sharp on every screen; a field that changes its size shows what was drawn in its new size.
    const fit = () => {
      const ratio = Math.max(1, window.devicePixelRatio);
      field.width = field.offsetWidth * ratio;
      field.height = field.offsetHeight * ratio;
      field.getContext('2d')!.scale(ratio, ratio);
      made.fromData(toDraw(latest.current.strokes, field.offsetHeight, { ...pen, compositeOperation: 'source-over' }));
    };
    fit();
    const done = () => {
      const next = drawn(made, field.offsetHeight);
      latest.current.strokes = next;
      latest.current.onChange(next);
    };
    made.addEventListener('endStroke', done);
    const watch = new ResizeObserver(fit);
    watch.observe(field);
    return () => {
      watch.disconnect();
      made.removeEventListener('endStroke', done);
      made.off();
    };
  }, []);
  return (
    <div className="relative">
      <canvas
        ref={canvas}
        role="img"
        aria-label={label}
        className="block aspect-[2/1] w-full touch-none border border-ink bg-paper-hi text-ink"
      />
      <span aria-hidden className="pointer-events-none absolute inset-x-4 bottom-[22%] border-b border-dotted border-ink-3" />
      <button
        type="button"
        className="absolute right-2 top-0 min-h-11 text-label font-semibold text-ink-2 underline"
        onClick={() => {
          pad.current?.clear();
          latest.current.strokes = [];
          onChange([]);
        }}
      >
        {t('handover.clear')}
      </button>
    </div>
  );
}
