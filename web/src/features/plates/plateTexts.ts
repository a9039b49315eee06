import plates from '../../../../texts/en.plates.json';
import { addTexts } from '../../texts';

addTexts(plates);
