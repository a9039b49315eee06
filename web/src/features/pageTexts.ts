import pages from '../../../texts/en.pages.json';
import site from '../../../texts/en.site.json';
import { addTexts } from '../texts';

/** Words of the pages that are loaded when they are opened. */
addTexts({ ...site, ...pages });
