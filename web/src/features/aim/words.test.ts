import { isPlaced, thingsOf, untouched } from './Touching';
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
    expect(thingsOf([])).toEqual(['horizon', 'upright', 'length']);
    expect(thingsOf(['Gate'])).toContain('target');
  });

  it('are put when each has its grip; of one alone the other grip says nothing', () => {
    const first = { ...untouched, thing: 'target' as const, from: { x: 0.4, y: 0.6 } };
    expect([isPlaced(first, 1), isPlaced(first, 2)]).toEqual([true, false]);
    expect(isPlaced({ ...first, to: { x: 0.6, y: 0.4 } }, 2)).toBe(true);
    expect(isPlaced({ ...untouched, thing: 'target' }, 1)).toBe(false);
  });
});
