import { speakBy } from '../speak';
import words from './de.json';
import { translatorOf } from './translator';

speakBy('de', translatorOf('de', words));
