/** The screen Bench. */
export { Bench } from './Bench';
