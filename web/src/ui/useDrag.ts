import { useRef, type PointerEvent } from 'react';

/** Follows a finger or a mouse that holds something in a drawing; tells where it is, in the drawing's own pixels. */
export function useDrag(onMove: (x: number, y: number) => void) {
  const held = useRef(false);
  const tell = (event: PointerEvent<SVGElement>) => {
    const svg = event.currentTarget.ownerSVGElement;
    const frame = svg?.getBoundingClientRect();
    if (!svg || !frame || frame.width === 0) return;
    const { width, height } = svg.viewBox.baseVal;
    onMove(((event.clientX - frame.left) * width) / frame.width, ((event.clientY - frame.top) * height) / frame.height);
  };
  return {
    style: { touchAction: 'none', cursor: 'grab' } as const,
    onPointerDown: (event: PointerEvent<SVGElement>) => {
      event.currentTarget.setPointerCapture(event.pointerId);
      held.current = true;
    },
    onPointerMove: (event: PointerEvent<SVGElement>) => {
      if (held.current) tell(event);
    },
    onPointerUp: () => {
      held.current = false;
    },
    onPointerCancel: () => {
      held.current = false;
    },
  };
}
