import { useState } from 'react';
import type { components } from '../../api/generated/schema';
import { say, t } from '../../texts';

type PlateView = components['schemas']['PlateView'];

/** Where what was said of the reader is of another view. */
export function Unlike({ view }: { view: PlateView }) {
  return view.unlike.map((m) => (
    <p key={m.args[0]} className="text-label font-semibold text-noted">
      {say(m)}
    </p>
  ));
}

/** The zone that plates are read in, drawn into the agreed picture; where there is none, into its frame. */
export function ZoneInView({ view, picture }: { view: PlateView; picture: string | undefined }) {
  const [shape, setShape] = useState(9 / 16);
  const high = 1000 * shape;
  const points = view.inPicture.map((p) => `${p.x * 1000},${p.y * high}`).join(' ');
  return (
    <figure className="m-0 mt-2">
      <div className="relative overflow-hidden border border-hairline bg-paper-lo" style={{ aspectRatio: `${1 / shape}` }}>
        {picture && (
          <img
            className="absolute inset-0 h-full w-full"
            src={picture}
            alt={t('plates.page.agreed-picture')}
            onLoad={(e) => setShape(e.currentTarget.naturalHeight / e.currentTarget.naturalWidth)}
            onError={(e) => (e.currentTarget.hidden = true)}
          />
        )}
        <svg className="absolute inset-0 h-full w-full" viewBox={`0 0 1000 ${high}`} aria-hidden>
          <polygon points={points} fill="none" stroke="#fff" strokeWidth={12} />
          <polygon points={points} fill="none" stroke="#14213d" strokeWidth={5} strokeDasharray="26 14" />
        </svg>
      </div>
      <figcaption className={`text-label ${view.isIn ? 'text-ink-2' : 'font-semibold text-refused'}`}>{say(view.zone)}</figcaption>
      <Unlike view={view} />
    </figure>
  );
}
