import { isLight, isPlaced, lightSays, thingsOf, untouched, type Light } from './Touching';
import { describe, expect, it } from 'vitest';
import './aimTexts';
import { degrees, judged, lean, lookedAtFor, sentence, stateOf, type Live, type Look, type Measured } from './words';

const measured = (over: Partial<Measured> = {}): Measured => ({
  panDeg: -2.31,
  tiltDeg: 1.1,
  rollDeg: -1.4,
  offDeg: 2.4,
  uncertaintyDeg: 0.03,
  rollUncertaintyDeg: 0.04,
  spareDeg: -0.4,
  staysWithinDeg: 0.4,
  leanDeg: -1.4,
  overlap: 0.93,
  agreement: 0.9,
  off: 'out',
  roll: 'out',
  agreed: { x: 0.45, y: 0.5 },
  horizon: [],
  bend: null,
  isBendGiven: false,
  ...over,
});

const look = (over: Partial<Look> = {}): Look => ({
  state: 'turn',
  why: null,
  stands: 'asReference',
  steps: [
    { way: 'left', degrees: 2.31 },
    { way: 'down', degrees: 1.1 },
  ],
  measured: measured(),
  ...over,
});

const live = (over: Partial<Live> = {}): Live => ({
  use: 'aim',
  number: 4,
  isLive: true,
  isFile: false,
  ageMs: 100,
  tookMs: 150,
  wide: 640,
  high: 360,
  look: look(),
  harms: [],
  lights: null,
  trouble: null,
  wantsLogin: false,
  tolerance: { offDeg: 2, rollDeg: 1 },
  agreed: { by: 'Odile Farrow', at: null, pictureId: null, why: null },
  isLocked: false,
  moved: null,
  focus: null,
  night: null,
  sway: null,
  ...over,
});

describe('what whoever turns is told', () => {
  it('is what the picture says, unless it is too old to turn by', () => {
    expect(stateOf(live(), 400)).toBe('turn');
    expect(stateOf(live({ look: look({ state: 'stop', steps: [] }) }), 400)).toBe('stop');
    // An old "stop" would leave the camera where it was pushed since.
    expect(stateOf(live({ look: look({ state: 'stop', steps: [] }) }), 2400)).toBe('look');
    // A picture from a file does not age.
    expect(stateOf(live({ isLive: false }), 90_000)).toBe('turn');
    expect(stateOf(live({ look: null }), 0)).toBe('none');
    expect(stateOf(undefined, 0)).toBe('none');
  });

  it('is said one turn at a time', () => {
    expect(sentence(live(), 100)).toBe('left 2.3 degrees');
    expect(sentence(live({ look: look({ state: 'stop', steps: [] }) }), 100)).toBe('Stop');
    expect(sentence(live(), 5000)).toBe('Look again');
    expect(sentence(live({ look: null }), 100)).toBe('');
  });
});

describe('figures', () => {
  it('have a tenth where a hand can follow it', () => {
    expect(degrees(0.04)).toBe('0.0');
    expect(degrees(9.94)).toBe('9.9');
    expect(degrees(9.96)).toBe('10');
    expect(degrees(41.4)).toBe('41');
  });

  it('say which end of the horizon is low', () => {
    expect(lean(measured())).toBe('Horizon leans 1.4\u00b0, left end low');
    expect(lean(measured({ leanDeg: 0.7 }))).toContain('right end low');
    expect(lean(measured({ leanDeg: 0 }))).toBe('level with the agreed view');
  });

  it('say what is spared or over, and nothing where it cannot be told', () => {
    expect(judged(measured(), 2)).toEqual({ off: '2.4\u00b0 off, at most 2:', outcome: 'out', rest: '0.4\u00b0 over' });
    expect(judged(measured({ offDeg: 1.7, off: 'in', spareDeg: 0.3 }), 2).rest).toBe('+0.3\u00b0 spare');
    expect(judged(measured({ offDeg: 2, off: 'tooClose', spareDeg: null }), 2)).toMatchObject({
      outcome: 'too close to tell',
      rest: '',
    });
  });
});

describe('two grips', () => {
  it('say nothing before both were put somewhere', () => {
    expect(isPlaced(untouched)).toBe(false);
    expect(isPlaced({ ...untouched, thing: 'length', metres: 2.4 })).toBe(false);
    expect(isPlaced({ ...untouched, from: { x: 0.25, y: 0.4 } })).toBe(false);
    expect(isPlaced({ ...untouched, from: { x: 0.25, y: 0.4 }, to: { x: 0.8, y: 0.5 } })).toBe(true);
  });
});

describe('a camera that is looked at for something else', () => {
  it('tells nothing here, and what nobody looks at is open to all', () => {
    expect(lookedAtFor('focus', undefined)).toBeUndefined();
    expect(lookedAtFor('focus', live())).toBeUndefined();
    expect(lookedAtFor('aim', live())?.use).toBe('aim');
    expect(lookedAtFor('night', live({ use: null }))?.number).toBe(4);
  });
});

describe('targets of the planned view', () => {
  it('can be touched where there are some', () => {
    expect(thingsOf([])).toEqual(['horizon', 'upright', 'length', 'lamp', 'mirror']);
    expect(thingsOf(['Gate'])).toContain('target');
  });

  it('are put when each has its grip; of one alone the other grip says nothing', () => {
    const first = { ...untouched, thing: 'target' as const, from: { x: 0.4, y: 0.6 } };
    expect([isPlaced(first, 1), isPlaced(first, 2)]).toEqual([true, false]);
    expect(isPlaced({ ...first, to: { x: 0.6, y: 0.4 } }, 2)).toBe(true);
    expect(isPlaced({ ...untouched, thing: 'target' }, 1)).toBe(false);
  });
});

describe('a light that was touched', () => {
  const light = (of: Partial<Light> = {}): Light => ({
    state: 'burns',
    region: { x: 0, y: 0, width: 9, height: 9 },
    whitePercent: 62.4,
    burntPercent: 1.26,
    rightDeg: -4.26,
    aboveDeg: 6,
    bearingDeg: 351.7,
    ways: [],
    mirrored: null,
    said: { code: 'touched-light.burns', args: [] },
    ...of,
  });

  it('says how far it spreads and where it stands, and nothing that is not known', () => {
    expect(lightSays(light())).toEqual([
      '62 % of what was touched is white.',
      '4.3\u00b0 left of the axis, 6.0\u00b0 above it.',
      'It stands at 352\u00b0 from north.',
    ]);
    expect(lightSays(light({ rightDeg: null, aboveDeg: null, bearingDeg: null, whitePercent: 0 }))).toEqual([]);
    // A few pixels of it are not none.
    expect(lightSays(light({ whitePercent: 0.02 }))[0]).toMatch(/^1 %/);
  });

  it('says what its turn costs', () => {
    const way = { way: 'left' as const, degrees: 5.25, loses: [] as string[] };
    expect(lightSays(light({ ways: [way] }), 1)).toContain('Every planned target stays in the picture.');
    // Where none is planned none stays.
    expect(lightSays(light({ ways: [way] }))).toHaveLength(3);
    expect(lightSays(light({ ways: [{ ...way, loses: ['Gate', 'Kerb'] }] }), 2)).toContain(
      'After that turn out of the picture: Gate, Kerb.',
    );
  });

  it('says when the sun stands in a mirror, and never as if nobody had looked', () => {
    const next = {
      day: '2026-12-03',
      inView: 2,
      firstInView: '11:40:00',
      lastInView: '12:05:00',
      inGuard: 2,
      firstInGuard: null,
      lastInGuard: null,
    };
    const says = (mirrored: Light['mirrored']) => lightSays(light({ mirrored })).slice(3);
    expect(says({ days: 41, next, ownLight: true })).toEqual([
      "It throws the camera's own infrared back into its lens.",
      'The sun stands in it on 41 days of the year, next on 3 December 2026 from 11:40 to 12:05, standard time.',
    ]);
    expect(says({ days: 0, next: null, ownLight: false })[0]).toMatch(/^The sun never stands in it/);
    expect(says(null)).toEqual([]);
  });

  it('has its grips around it, where both were put', () => {
    expect([isLight({ thing: 'lamp' }), isLight({ thing: 'mirror' }), isLight({ thing: 'length' })]).toEqual([true, true, false]);
  });
});
