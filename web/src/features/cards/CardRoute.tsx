import './cardTexts';

export { CardPage as default } from './CardPage';
