import { useCallback, useEffect, useRef, useState } from 'react';
import { answered, api, NoNetworkError, ProblemError } from '../../api/client';
import type { components } from '../../api/generated/schema';
import { identity } from '../../session/identity';
import { t } from '../../texts';
import type { Live, Use } from './words';

export type Point = components['schemas']['PictureShare'];

/** What a picture is looked at for, and where in it. */
export interface LookedFor {
  use: Use;
  target?: Point;
}

export interface Login {
  user: string;
  password: string;
}

/** What is seen of a head: the newest answer whose picture is here, so that picture and arrows are of one moment. */
export interface Seen {
  live: Live;
  /** Of the picture; none where there is none. */
  url?: string;
  /** When it came here, by this device's clock. */
  at: number;
}

const wait = (ms: number, signal: AbortSignal) =>
  new Promise<void>((done) => {
    const timer = setTimeout(done, ms);
    signal.addEventListener('abort', () => (clearTimeout(timer), done()));
  });

/** The pictures of a head, live: whoever opens it sees what everybody sees; it is asked as long as the page is open and in front. */
export function useAim(deviceId: string, headId: string) {
  const [seen, setSeen] = useState<Seen>();
  const [trouble, setTrouble] = useState<string>();
  const [isBusy, setBusy] = useState(false);
  const [round, setRound] = useState(0);
  const shown = useRef<{ url?: string; number: number }>({ number: 0 });
  const path = { deviceId, headId };

  /** Its picture first: an arrow that is newer than what is seen misleads. */
  const show = useCallback(
    async (live: Live, signal?: AbortSignal) => {
      if (live.number > 0 && live.number !== shown.current.number) {
        try {
          const answer = await fetch(`/api/cards/${deviceId}/aim/${headId}/picture.jpg?number=${live.number}`, { signal });
          // A newer one has come meanwhile: its answer follows.
          if (answer.ok) {
            const url = URL.createObjectURL(await answer.blob());
            const image = new Image();
            image.src = url;
            await image.decode().catch(() => {});
            const before = shown.current.url;
            shown.current = { url, number: live.number };
            if (before) setTimeout(() => URL.revokeObjectURL(before), 1000);
          } else if (live.isLive) return;
        } catch {
          return;
        }
      }
      if (signal?.aborted) return;
      setSeen({ live, url: shown.current.url, at: Date.now() - (live.ageMs ?? 0) });
    },
    [deviceId, headId],
  );

  useEffect(() => {
    const stop = new AbortController();
    const { signal } = stop;
    void (async () => {
      let after = 0;
      while (!signal.aborted) {
        if (document.visibilityState === 'hidden') {
          await wait(400, signal);
          continue;
        }
        try {
          const live = await answered(
            api.POST('/api/cards/{deviceId}/aim/{headId}/live', { params: { path: { deviceId, headId }, query: { after } }, signal }),
          );
          // Begun anew elsewhere, its numbers begin anew.
          if (live.number < after) shown.current = { url: shown.current.url, number: 0 };
          after = live.number;
          setTrouble(undefined);
          await show(live, signal);
          // Nobody asks the camera: somebody else may begin.
          if (!live.isLive) await wait(1500, signal);
        } catch (error) {
          if (signal.aborted) return;
          setTrouble(
            error instanceof NoNetworkError ? t('aim.offline') : error instanceof ProblemError ? error.problem.detail : t('aim.offline'),
          );
          await wait(1500, signal);
        }
      }
    })();
    return () => stop.abort();
  }, [deviceId, headId, round, show]);

  useEffect(
    () => () => {
      if (shown.current.url) URL.revokeObjectURL(shown.current.url);
    },
    [],
  );

  /** Why it was not done; empty: it was. */
  const doing = async (what: () => Promise<Live>): Promise<string> => {
    setBusy(true);
    setTrouble(undefined);
    try {
      shown.current.number = 0;
      await show(await what());
      setRound((r) => r + 1);
      return '';
    } catch (error) {
      const why = error instanceof ProblemError ? error.problem.detail : t('aim.offline');
      setTrouble(why);
      return why;
    } finally {
      setBusy(false);
    }
  };

  return {
    seen,
    trouble,
    isBusy,
    begin: (login: Login | null, { use, target }: LookedFor) =>
      doing(() =>
        answered(
          api.POST('/api/cards/{deviceId}/aim/{headId}/begin', {
            params: { path },
            body: { login: login ? { ...login, at: '' } : null, by: identity().personId ?? '', use, target: target ?? null },
          }),
        ),
      ),
    file: (file: Blob, { use, target }: LookedFor, corners?: string) =>
      doing(async () => {
        const where = `?use=${use}${target ? `&x=${target.x}&y=${target.y}` : ''}${corners ? `&corners=${corners}` : ''}`;
        const response = await fetch(`/api/cards/${deviceId}/aim/${headId}/file${where}`, {
          method: 'POST',
          headers: { 'content-type': 'application/octet-stream' },
          body: file,
        });
        const answer: unknown = await response.json();
        if (!response.ok) throw new ProblemError(answer as ProblemError['problem']);
        return answer as Live;
      }),
    /** Looks elsewhere how sharp it is, or begins anew. */
    focus: (target: Point) =>
      doing(() => answered(api.POST('/api/cards/{deviceId}/aim/{headId}/focus', { params: { path }, body: { target } }))),
    /** Has the motor of its lens driven. */
    motor: (ask: components['schemas']['MotorAsk'], share = 0) =>
      doing(() =>
        answered(
          api.POST('/api/cards/{deviceId}/aim/{headId}/motor', {
            params: { path },
            body: { ask, share, by: identity().personId ?? '' },
          }),
        ),
      ),
    /** Something was done about what lies over it in the dark. */
    tried: (act: components['schemas']['NightAct']) =>
      doing(() => answered(api.POST('/api/cards/{deviceId}/aim/{headId}/tried', { params: { path }, body: { act } }))),
    /** Whether it stands still. */
    walked: () => doing(() => answered(api.POST('/api/cards/{deviceId}/aim/{headId}/walked', { params: { path } }))),
    sway: (ask: components['schemas']['SwayAsk']) =>
      doing(() => answered(api.POST('/api/cards/{deviceId}/aim/{headId}/sway', { params: { path }, body: { ask } }))),
    still: () => doing(() => answered(api.POST('/api/cards/{deviceId}/aim/{headId}/still', { params: { path } }))),
    lock: (tight: boolean) =>
      doing(() => answered(api.POST('/api/cards/{deviceId}/aim/{headId}/lock', { params: { path }, body: { tight } }))),
  };
}

/** How old the picture is, told anew ten times a second while it is live. */
export function useAge(seen: Seen | undefined) {
  const [now, setNow] = useState(Date.now);
  useEffect(() => {
    const tick = setInterval(() => setNow(Date.now()), 100);
    return () => clearInterval(tick);
  }, []);
  return seen?.live.isLive ? Math.max(0, now - seen.at) : 0;
}

/** Says aloud what whoever turns has to do, and shakes the phone once at "stop". */
export function useVoice(words: string, isStop: boolean, on: boolean) {
  const last = useRef({ words: '', at: 0 });
  useEffect(() => {
    if (!on || !words) return;
    const { words: before, at } = last.current;
    const since = Date.now() - at;
    // "Stop" is said at once and once; figures not more often than they can be followed.
    if (words === before && (isStop || since < 6000)) return;
    const say = () => {
      last.current = { words, at: Date.now() };
      const { speechSynthesis } = window;
      if (speechSynthesis) {
        speechSynthesis.cancel();
        const said = new SpeechSynthesisUtterance(words);
        said.rate = 1.1;
        speechSynthesis.speak(said);
      }
      if (isStop) navigator.vibrate?.([180, 80, 180]);
    };
    if (isStop || since >= 2500) return say();
    const later = setTimeout(say, 2500 - since);
    return () => clearTimeout(later);
  }, [words, isStop, on]);
}
