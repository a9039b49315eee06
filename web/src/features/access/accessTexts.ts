import access from '../../../../texts/en.access.json';
import { addTexts } from '../../texts';

/** Words of the door: for who is not in yet, and for who lets people in. */
addTexts(access);
