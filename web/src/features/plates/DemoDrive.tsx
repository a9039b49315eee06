import { useEffect, useState } from 'react';
import { t } from '../../texts';
import { Trouble } from '../../ui/Trouble';
import { call } from '../demo/call';
import { nextPass, secondsUntil, type Planned, type Plates } from './driveWords';
import { useNow, type usePlates } from './usePlates';

interface Reader {
  label: string;
  note: string | null;
  written: number;
}

/** The made-up world drives by, and somebody at its roadside ticks it off. */
export function DemoDrive({ answer, plates }: { answer: Plates; plates: ReturnType<typeof usePlates> }) {
  const [reader, setReader] = useState<Reader>();
  const [trouble, setTrouble] = useState('');
  const [isBusy, setBusy] = useState(false);
  const now = useNow();
  const at = `plates/${encodeURIComponent(answer.label)}`;
  useEffect(() => {
    call<Reader>(`plates/${encodeURIComponent(answer.label)}`)
      .then(setReader)
      .catch(() => {});
  }, [answer.label]);
  const { trial } = answer;
  const { design, plan } = trial;
  if (!reader) return null;
  const plate = (name: string) => design?.vehicles.find((v) => v.name === name)?.plate ?? '';
  const act = async (work: () => Promise<unknown>) => {
    setBusy(true);
    try {
      await work();
      setTrouble('');
    } catch (e) {
      setTrouble((e as Error).message);
    } finally {
      setBusy(false);
    }
  };
  /** These passes, the last of them just now, each ticked off by a thumb that is a little late. */
  const drive = async (passes: Planned[]) => {
    const all = passes.slice(1).reduce((sum, p) => sum + p.gapSeconds, 0);
    let before = all;
    const ago = passes.map((p, i) => (before -= i === 0 ? 0 : p.gapSeconds));
    setReader(
      await call<Reader>(
        `${at}/drive`,
        passes.map((p, i) => ({ plate: plate(p.vehicle), kmh: p.kmh, secondsAgo: ago[i] })),
      ),
    );
    // Even in a made-up world nobody's thumb is as even as a clock.
    const late = (i: number) => 0.4 + ((i * 7) % 11) / 10;
    await plates.tick(...passes.map((p, i) => ({ vehicle: p.vehicle, planned: p, secondsBefore: Math.max(0, ago[i] - late(i)) })));
  };
  const next = nextPass(trial, plates.waiting);
  const mayCome = !!next && secondsUntil(next.from, now) === null;
  // They lie before now: beside passes that were driven already they would come too soon.
  const isFresh = trial.passes.length + plates.waiting.length === 0;
  const anew = async () => {
    setReader(await call<Reader>(`${at}/mend`, {}));
    await plates.takeBack(...trial.passes.map((pass) => pass.id));
  };
  return (
    <section aria-label={t('plates.page.demo')} className="mt-4 border-t border-hairline pt-2" data-testid="demo-drive">
      <p className="text-label">
        <b>{t('plates.page.demo')}</b> <span className="text-ink-3">{reader.note ?? t('plates.page.demo-right')}</span>
      </p>
      <Trouble text={trouble} className="mt-1" />
      <div className="mt-1 flex flex-wrap items-center gap-2">
        <button className="plain" disabled={!mayCome || isBusy} onClick={() => void act(() => drive([next!.planned]))}>
          {t('plates.page.demo-next')}
        </button>
        <button className="plain" disabled={!isFresh || isBusy} onClick={() => void act(() => drive(plan!.passes))}>
          {isBusy ? t('plates.page.demo-drives') : t('plates.page.demo-all', plan?.passes.length ?? 0)}
        </button>
        <button className="plain" disabled={isBusy || plates.waiting.length > 0} onClick={() => void act(anew)}>
          {t('plates.page.demo-mend')}
        </button>
      </div>
    </section>
  );
}
