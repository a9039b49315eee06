import { describe, expect, it } from 'vitest';
import { PARTS } from '../../ui/parts';
import { asEvery, partsOf, toggled, whole } from './scope';

describe('what a job covers', () => {
  it('is all of the work until a part is left, and keeps the order of the work', () => {
    const some = toggled(toggled(whole(), 'night'), 'before');
    expect(some.parts).toEqual(PARTS.filter((p) => p !== 'night' && p !== 'before'));
    expect(toggled(toggled(some, 'before'), 'night').parts).toEqual(PARTS);
  });

  it('is other for a kind that says so, until that follows every other again', () => {
    const scope = toggled({ parts: ['cable', 'power'], byKind: {} }, 'recorder', 'recorder');
    expect(partsOf(scope, 'recorder')).toEqual(['cable', 'power', 'recorder']);
    expect(partsOf(scope, 'bullet')).toEqual(['cable', 'power']);
    expect(partsOf(toggled(scope, 'cable'), 'recorder')).toEqual(['cable', 'power', 'recorder']);
    expect(partsOf(asEvery(scope, 'recorder'), 'recorder')).toEqual(['cable', 'power']);
    expect(asEvery(scope, 'recorder').byKind).toEqual({});
  });

  it('changes nothing that somebody else holds', () => {
    const scope = whole();
    toggled(scope, 'link', 'bullet');
    expect(scope).toEqual(whole());
  });
});
