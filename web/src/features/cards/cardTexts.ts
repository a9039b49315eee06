import checks from '../../../../texts/en.checks.json';
import { addTexts } from '../../texts';

/** Words of the Checks: loaded with the Card. */
addTexts(checks);
