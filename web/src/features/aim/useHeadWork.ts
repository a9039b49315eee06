import { useDemo } from '../../api/queries';
import { useIdentity } from '../../session/identity';
import { say, t } from '../../texts';
import type { OnHead } from './HeadPage';
import { type Point, useAge, useAim } from './useAim';
import { useKeepShown } from './useKeepShown';
import { useLook } from './Ways';
import { lookedAtFor, type Use } from './words';

/** What every page needs that looks through a camera: its pictures, how old they are, the way to begin, and to keep what is shown. */
export function useHeadWork(use: Use, { views, head, deviceId }: OnHead, staleMs: number, target?: Point) {
  const me = useIdentity();
  const demo = !!useDemo().data?.demo;
  const aim = useAim(deviceId, head.id);
  const { seen } = aim;
  const live = lookedAtFor(use, seen?.live);
  const age = useAge(seen);
  const { trouble, ...kept } = useKeepShown({ deviceId, headId: head.id }, live);
  const { look, wantsLogin, sheet } = useLook(deviceId, views.label, seen?.live, (login) => aim.begin(login, { use, target }));
  return {
    aim,
    ...kept,
    why: trouble,
    /** The newest picture, where it was taken for this. */
    seen: live && seen,
    live,
    age,
    isOld: !!live?.isLive && age > staleMs,
    isLive: !!live?.isLive,
    hasPicture: !!live && live.number > 0,
    begin: look,
    fromFile: (file: File, corners?: string) => aim.file(file, { use, target }, corners),
    login: sheet,
    demo,
    hasName: !!me.personId,
    mayWork: !aim.isBusy && !!me.personId,
    wrong: aim.trouble ?? (trouble || (seen?.live.trouble && !wantsLogin ? say(seen.live.trouble) : '')),
    /** Somebody looks through it for something else: looking here ends that. */
    elsewhere: !live && seen?.live.isLive && seen.live.use ? t(`aim.in-use.${seen.live.use}`) : '',
  };
}
