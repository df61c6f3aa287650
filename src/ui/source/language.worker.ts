import { openDoor, type ToLanguage } from './language-door';
import { LanguageService } from './language-service';

/** Answers the editor from the same core as the server, away from the keyboard's thread. */
const take = openDoor(new LanguageService(), (message) => self.postMessage(message));
self.onmessage = ({ data }: MessageEvent<ToLanguage>) => take(data);
