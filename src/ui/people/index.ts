/** Who may work here, one's own account, and the log. */
export { PeopleScreen } from './PeopleScreen';
