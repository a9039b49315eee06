import '../access/accessTexts';
import './cardTexts';

export { CardPage as default } from './CardPage';
