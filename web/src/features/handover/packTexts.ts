import pack from '../../../../texts/en.pack.json';
import { addTexts } from '../../texts';

addTexts(pack);
