import '../pageTexts';
import { useEffect, useState } from 'react';
import { t } from '../../texts';
import { Trouble } from '../../ui/Trouble';
import { call } from '../demo/call';

interface HeadTruth {
  head: number;
  pan: number;
  tilt: number;
  roll: number;
  isLocked: boolean;
  offSharpest: number;
  isCovered: boolean;
  isInfraredOn: boolean;
  throwsBack: string | null;
  note: string | null;
}

const hands = [
  ['left', -1, 0, 0],
  ['right', 1, 0, 0],
  ['up', 0, -1, 0],
  ['down', 0, 1, 0],
  ['counterClockwise', 0, 0, -1],
  ['clockwise', 0, 0, 1],
] as const;

/** How the heads of a camera hang in the made-up world, and a way to change that. */
function useWorld(label: string, head: number) {
  const [heads, setHeads] = useState<HeadTruth[]>();
  const [trouble, setTrouble] = useState<string>();
  const at = `views/${encodeURIComponent(label)}`;
  useEffect(() => {
    call<HeadTruth[]>(`views/${encodeURIComponent(label)}`)
      .then(setHeads)
      .catch(() => {});
  }, [label]);
  return {
    trouble,
    truth: heads?.find((h) => h.head === head),
    act: (what: string, body: object) =>
      void call<HeadTruth[]>(`${at}/${what}`, body)
        .then((h) => (setTrouble(undefined), setHeads(h)))
        .catch((e: Error) => setTrouble(e.message)),
  };
}

type World = ReturnType<typeof useWorld>;

function Tighten({ truth, act }: { truth: HeadTruth; act: World['act'] }) {
  return (
    <button className="plain" aria-pressed={truth.isLocked} onClick={() => act('lock', { tight: !truth.isLocked })}>
      {truth.isLocked ? t('aim.demo-loosen') : t('aim.demo-tighten')}
    </button>
  );
}

/** Night falls over the made-up world, or it is day again. */
function Nightfall() {
  const [dark, setDark] = useState<boolean>();
  useEffect(() => {
    call<{ dark: boolean }>('panel')
      .then((p) => setDark(p.dark))
      .catch(() => {});
  }, []);
  if (dark === undefined) return null;
  return (
    <button
      className="plain"
      aria-pressed={dark}
      onClick={() =>
        void call<{ dark: boolean }>('clock', { speed: null, dark: !dark })
          .then((c) => setDark(c.dark))
          .catch(() => {})
      }
    >
      {t(dark ? 'aim.demo-light' : 'aim.demo-dark')}
    </button>
  );
}

function By({ sizes, by, unit, onBy }: { sizes: number[]; by: number; unit: string; onBy: (by: number) => void }) {
  return sizes.map((d) => (
    <button
      key={d}
      className={`plain ${by === d ? '!border-2 !border-ink font-bold' : ''}`}
      aria-pressed={by === d}
      onClick={() => onBy(d)}
    >
      {d}
      {unit}
    </button>
  ));
}

/** The made-up world's hand on the camera. */
export function DemoTurn({ label, head }: { label: string; head: number }) {
  const { truth, trouble, act } = useWorld(label, head);
  const [by, setBy] = useState(0.5);
  if (!truth) return null;
  return (
    <section aria-label={t('aim.demo')} className="mt-4 border-t border-hairline pt-2" data-testid="demo-turn">
      <p className="text-label">
        <b>{t('aim.demo')}</b> <span className="text-ink-3">{t('aim.demo-how')}</span>
      </p>
      <Trouble text={trouble} className="mt-1" />
      <div className="mt-1 flex flex-wrap items-center gap-2">
        {hands.map(([way, pan, tilt, roll]) => (
          <button
            key={way}
            className="plain"
            disabled={truth.isLocked}
            onClick={() => act('turn', { head, pan: pan * by, tilt: tilt * by, roll: roll * by })}
          >
            {t(`aim.way.${way}`)}
          </button>
        ))}
        <By sizes={[0.1, 0.5, 2]} by={by} unit={'\u00b0'} onBy={setBy} />
        <Tighten truth={truth} act={act} />
        <button className="plain" onClick={() => act('push', {})}>
          {t('aim.demo-push')}
        </button>
        <Nightfall />
      </div>
    </section>
  );
}

/** The made-up world's hand on the lens. */
export function DemoRing({ label, head, hasCover }: { label: string; head: number; hasCover: boolean }) {
  const { truth, trouble, act } = useWorld(label, head);
  const [by, setBy] = useState(0.5);
  if (!truth) return null;
  return (
    <section aria-label={t('focus.demo-ring')} className="mt-4 border-t border-hairline pt-2" data-testid="demo-ring">
      <p className="text-label">
        <b>{t('focus.demo-ring')}</b>
      </p>
      <Trouble text={trouble} className="mt-1" />
      <div className="mt-1 flex flex-wrap items-center gap-2">
        {([-1, 1] as const).map((way) => (
          <button key={way} className="plain" onClick={() => act('ring', { head, steps: way * by })}>
            {t(way < 0 ? 'focus.demo-near' : 'focus.demo-far')}
          </button>
        ))}
        <By sizes={[0.2, 0.5, 1]} by={by} unit="" onBy={setBy} />
        {hasCover && (
          <button className="plain" onClick={() => act('cover', { on: !truth.isCovered })}>
            {t(truth.isCovered ? 'focus.demo-cover-off' : 'focus.demo-cover-on')}
          </button>
        )}
        <Tighten truth={truth} act={act} />
      </div>
    </section>
  );
}

/** The made-up world's night, and a hand in it. */
export function DemoNight({ label, head, hasLight }: { label: string; head: number; hasLight: boolean }) {
  const { truth, trouble, act } = useWorld(label, head);
  if (!truth) return null;
  const hand = (what: 'wipe' | 'film' | 'foam' | 'shade') => (
    <button key={what} className="plain" onClick={() => act('night', { do: what })}>
      {t(`night.demo-${what}`)}
    </button>
  );
  return (
    <section aria-label={t('night.demo')} className="mt-4 border-t border-hairline pt-2 max-[599px]:px-0" data-testid="demo-night">
      <p className="text-label">
        <b>{t('night.demo')}</b>
      </p>
      <Trouble text={trouble} className="mt-1" />
      <div className="mt-1 flex flex-wrap items-center gap-2">
        <Nightfall />
        {(['wipe', 'film', 'foam', 'shade'] as const).map(hand)}
        <button className="plain" onClick={() => act('night', { do: 'infrared' })}>
          {t(truth.isInfraredOn ? 'night.demo-infrared-off' : 'night.demo-infrared-on')}
        </button>
        {hasLight && (
          <button className="plain" onClick={() => act('walk', {})}>
            {t('night.demo-walk')}
          </button>
        )}
        <button className="plain" onClick={() => act('cover', { on: !truth.isCovered })}>
          {t(truth.isCovered ? 'focus.demo-cover-off' : 'focus.demo-cover-on')}
        </button>
        <button className="plain" disabled={truth.isLocked} onClick={() => act('turn', { head, pan: 0, tilt: 6, roll: 0 })}>
          {t('night.demo-down')}
        </button>
        <button className="plain" disabled={truth.isLocked} onClick={() => act('turn', { head, pan: 10, tilt: 0, roll: 0 })}>
          {t('night.demo-away')}
        </button>
      </div>
    </section>
  );
}
