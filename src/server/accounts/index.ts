/** Who may use the workbench. */
export { safeTarget, SignIn, signInPage } from './sign-in';
