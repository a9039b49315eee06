import { useEffect, useState } from 'react';
import { t } from '../../texts';
import { Sheet } from '../../ui/Dialog';
import { Grip } from './AimPicture';
import { halo, line } from './Frame';
import type { Point } from './useAim';
import { Trouble } from '../../ui/Trouble';
import { cornersText, loupeAt } from './corners';

const names = ['top-left', 'top-right', 'bottom-right', 'bottom-left'] as const;

/** Where the grips begin: well inside, so that each is seen. */
const begin: Point[] = [
  { x: 0.15, y: 0.2 },
  { x: 0.85, y: 0.2 },
  { x: 0.85, y: 0.8 },
  { x: 0.15, y: 0.8 },
];

/** A photograph of a monitor: the four corners of the camera's picture in it are touched, and by them it is laid flat. */
export default function MonitorSheet({
  file,
  onClose,
  onCorners,
}: {
  file: File;
  onClose: () => void;
  onCorners: (text: string) => Promise<string>;
}) {
  const [url, setUrl] = useState<string>();
  const [size, setSize] = useState<{ wide: number; high: number } | 'none'>();
  const [corners, setCorners] = useState(begin);
  const [held, setHeld] = useState<number>();
  useEffect(() => {
    const made = URL.createObjectURL(file);
    setUrl(made);
    return () => URL.revokeObjectURL(made);
  }, [file]);
  const [why, setWhy] = useState('');
  const [isBusy, setBusy] = useState(false);
  const measure = async () => {
    setBusy(true);
    setWhy(await onCorners(cornersText(corners)));
    setBusy(false);
  };
  return (
    <Sheet title={t('monitor.title')} hint={t('monitor.how')} onClose={onClose} wide>
      {size === 'none' && (
        <p role="alert" className="font-semibold text-refused">
          {t('monitor.unreadable')}
        </p>
      )}
      <div className="relative">
        {url && size !== 'none' && (
          <img
            className="block w-full"
            src={url}
            alt={t('monitor.photo')}
            onLoad={(e) => setSize({ wide: e.currentTarget.naturalWidth, high: e.currentTarget.naturalHeight })}
            onError={() => setSize('none')}
          />
        )}
        {url && size && size !== 'none' && (
          <>
            <svg
              className="absolute inset-0 h-full w-full"
              viewBox={`0 0 ${size.wide} ${size.high}`}
              role="group"
              aria-label={t('monitor.title')}
            >
              {[halo, line].map((style) => (
                <polygon
                  key={style.strokeWidth}
                  points={corners.map((c) => `${c.x * size.wide},${c.y * size.high}`).join(' ')}
                  {...style}
                />
              ))}
              {corners.map((corner, i) => (
                <Grip
                  key={names[i]}
                  name={t(`monitor.${names[i]}`)}
                  at={corner}
                  wide={size.wide}
                  high={size.high}
                  onMove={(p) => {
                    setHeld(i);
                    setCorners(corners.map((c, j) => (j === i ? p : c)));
                  }}
                  onHold={() => setHeld(i)}
                />
              ))}
            </svg>
            {held !== undefined && (
              // The finger lies on what it sets: seen beside it, four times as large.
              <div
                aria-hidden
                className={`pointer-events-none absolute top-2 h-32 w-32 overflow-hidden border-2 border-ink bg-paper ${
                  loupeAt(corners[held]) === 'left' ? 'left-2' : 'right-2'
                }`}
              >
                <Loupe url={url} at={corners[held]} shape={size.high / size.wide} />
              </div>
            )}
          </>
        )}
      </div>
      <Trouble text={why} className="mt-2" />
      <p className="mt-2 text-label text-ink-2">{t('monitor.less-sure')}</p>
      <button
        type="button"
        className="forward mt-2 w-full disabled:opacity-40"
        disabled={!size || size === 'none' || isBusy}
        onClick={() => void measure()}
      >
        {t('monitor.go')}
      </button>
    </Sheet>
  );
}

const LOUPE = 128;
const WIDE = 1200;

function Loupe({ url, at, shape }: { url: string; at: Point; shape: number }) {
  return (
    <>
      <img
        alt=""
        src={url}
        className="absolute max-w-none"
        style={{ width: WIDE, height: WIDE * shape, left: LOUPE / 2 - at.x * WIDE, top: LOUPE / 2 - at.y * WIDE * shape }}
      />
      <svg className="absolute inset-0" viewBox="0 0 128 128">
        {[halo, line].map((style) => (
          <path key={style.strokeWidth} d="M64 40V88M40 64H88" {...style} />
        ))}
      </svg>
    </>
  );
}
