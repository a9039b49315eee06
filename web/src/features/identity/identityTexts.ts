import identity from '../../../../texts/en.identity.json';
import { addTexts } from '../../texts';

addTexts(identity);
