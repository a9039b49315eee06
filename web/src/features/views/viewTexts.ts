import views from '../../../../texts/en.views.json';
import { addTexts } from '../../texts';

addTexts(views);
