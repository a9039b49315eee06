import night from '../../../../texts/en.night.json';
import { addTexts } from '../../texts';

addTexts(night);
