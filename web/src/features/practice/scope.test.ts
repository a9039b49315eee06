import { describe, expect, it } from 'vitest';
import { asEvery, partsOf, toggled } from './scope';

const all = ['before', 'cable', 'power', 'link', 'recorder', 'night'] as const;
const whole = () => ({ parts: [...all], byKind: {} });

describe('what a job covers', () => {
  it('is all of the work until a part is left, and keeps the order of the work', () => {
    const some = toggled(toggled(whole(), 'night', all), 'before', all);
    expect(some.parts).toEqual(all.filter((p) => p !== 'night' && p !== 'before'));
    expect(toggled(toggled(some, 'before', all), 'night', all).parts).toEqual([...all]);
  });

  it('is other for a kind that says so, until that follows every other again', () => {
    const scope = toggled({ parts: ['cable', 'power'], byKind: {} }, 'recorder', all, 'recorder');
    expect(partsOf(scope, 'recorder')).toEqual(['cable', 'power', 'recorder']);
    expect(partsOf(scope, 'bullet')).toEqual(['cable', 'power']);
    expect(partsOf(toggled(scope, 'cable', all), 'recorder')).toEqual(['cable', 'power', 'recorder']);
    expect(partsOf(asEvery(scope, 'recorder'), 'recorder')).toEqual(['cable', 'power']);
    expect(asEvery(scope, 'recorder').byKind).toEqual({});
  });

  it('changes nothing that somebody else holds', () => {
    const scope = whole();
    toggled(scope, 'link', all, 'bullet');
    expect(scope).toEqual(whole());
  });
});
