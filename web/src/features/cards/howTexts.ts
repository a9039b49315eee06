import how from '../../../../texts/en.how.json';
import { addTexts } from '../../texts';

/** How each row is done, step by step: loaded where somebody looks at it. */
addTexts(how);
