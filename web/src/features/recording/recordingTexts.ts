import recording from '../../../../texts/en.recording.json';
import { addTexts } from '../../texts';

addTexts(recording);
