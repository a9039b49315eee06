import aim from '../../../../texts/en.aim.json';
import { addTexts } from '../../texts';

addTexts(aim);
