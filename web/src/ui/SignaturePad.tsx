import { useEffect, useRef } from 'react';
import Pad from 'signature_pad';
import { t } from '../texts';

/** Points of each stroke, x and y in turn, as shares of a field twice as wide as high: 0 to 2 and 0 to 1. */
export type Strokes = number[][];

const drawn = (pad: Pad, height: number): Strokes =>
  pad.toData().map((stroke) => stroke.points.flatMap((p) => [Number((p.x / height).toFixed(4)), Number((p.y / height).toFixed(4))]));

/** A field to sign in, with pen, finger or mouse. */
export function SignaturePad({ label, onChange }: { label: string; onChange: (strokes: Strokes) => void }) {
  const canvas = useRef<HTMLCanvasElement>(null);
  const pad = useRef<Pad>(undefined);
  const told = useRef(onChange);
  useEffect(() => {
    told.current = onChange;
  });
  useEffect(() => {
    const field = canvas.current!;
    // Sharp on every screen; a field that changes its size keeps what was drawn.
    const fit = () => {
      const data = pad.current?.toData();
      const ratio = Math.max(1, window.devicePixelRatio);
      field.width = field.offsetWidth * ratio;
      field.height = field.offsetHeight * ratio;
      field.getContext('2d')!.scale(ratio, ratio);
      if (data) pad.current!.fromData(data);
    };
    const ink = getComputedStyle(field).color;
    pad.current = new Pad(field, { penColor: ink, minWidth: 0.9, maxWidth: 2.2, throttle: 8 });
    fit();
    const done = () => told.current(drawn(pad.current!, field.offsetHeight));
    pad.current.addEventListener('endStroke', done);
    const watch = new ResizeObserver(fit);
    watch.observe(field);
    return () => {
      watch.disconnect();
      pad.current?.off();
    };
  }, []);
  return (
    <div className="relative">
      <canvas ref={canvas} role="img" aria-label={label} className="block aspect-[2/1] w-full touch-none border border-ink bg-paper-hi text-ink" />
      <span aria-hidden className="pointer-events-none absolute inset-x-4 bottom-[22%] border-b border-dotted border-ink-3" />
      <button
        type="button"
        className="absolute right-2 top-0 min-h-11 text-label font-semibold text-ink-2 underline"
        onClick={() => {
          pad.current?.clear();
          onChange([]);
        }}
      >
        {t('handover.clear')}
      </button>
    </div>
  );
}
