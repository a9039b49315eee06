import addresses from '../../../../texts/en.addresses.json';
import { addTexts } from '../../texts';

addTexts(addresses);
