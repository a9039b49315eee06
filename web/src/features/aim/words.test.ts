import { describe, expect, it } from 'vitest';
import './aimTexts';
import { degrees, judged, lean, sentence, stateOf, staysUntil, type Live, type Look } from './words';

const look = (over: Partial<Look> = {}): Look => ({
  state: 'turn',
  why: null,
  stands: 'asReference',
  steps: [
    { way: 'left', degrees: 2.31 },
    { way: 'down', degrees: 1.1 },
  ],
  panDeg: -2.31,
  tiltDeg: 1.1,
  rollDeg: -1.4,
  offDeg: 2.4,
  uncertaintyDeg: 0.03,
  rollUncertaintyDeg: 0.04,
  zoom: 1,
  overlap: 0.93,
  agreement: 0.9,
  off: 'out',
  roll: 'out',
  agreed: { x: 0.45, y: 0.5 },
  horizon: [],
  ...over,
});

const live = (over: Partial<Live> = {}): Live => ({
  number: 4,
  isLive: true,
  ageMs: 100,
  tookMs: 150,
  wide: 640,
  high: 360,
  look: look(),
  trouble: null,
  wantsLogin: false,
  tolerance: { offDeg: 2, rollDeg: 1 },
  agreed: { by: 'Odile Farrow', at: null, pictureId: null, why: null },
  isLocked: false,
  moved: null,
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
    // To be turned against the clock, it hangs clockwise: the left end is low.
    expect(lean(look())).toContain('1.4');
    expect(lean(look())).toContain('left end low');
    expect(lean(look({ rollDeg: 0.7 }))).toContain('right end low');
    expect(lean(look({ rollDeg: 0.03 }))).toBe('level with the agreed view');
  });

  it('say what is spared or over, and nothing where it cannot be told', () => {
    expect(judged(look(), 2)).toEqual({ off: '2.4\u00b0 off, at most 2:', outcome: 'out', rest: '0.4\u00b0 over' });
    expect(judged(look({ offDeg: 1.7, off: 'in' }), 2).rest).toBe('+0.3\u00b0 spare');
    expect(judged(look({ offDeg: 2.0, off: 'tooClose' }), 2)).toMatchObject({ outcome: 'too close to tell', rest: '' });
  });

  it('say until when "stop" stays', () => {
    expect(staysUntil(live())).toBeCloseTo(0.4);
    expect(staysUntil(live({ look: look({ uncertaintyDeg: 0.3 }) }))).toBeCloseTo(1.2);
  });
});
