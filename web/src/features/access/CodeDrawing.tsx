/** A code for a phone's camera: black on white by night too, since cameras read nothing else. */
export const CodeDrawing = ({ svg, label }: { svg: string; label: string }) => (
  <img
    className="mt-2 w-full max-w-[280px] border border-hairline bg-white"
    alt={label}
    src={`data:image/svg+xml,${encodeURIComponent(svg)}`}
  />
);
