import schools from '../../../../texts/en.schools.json';
import { addTexts } from '../../texts';

/** Words of the schools and of what a job covers. */
addTexts(schools);
