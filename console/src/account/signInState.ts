/** How far somebody is with signing in. */
export type SignInState =
  | { step: "name"; busy: boolean; error?: string | undefined }
  | { step: "factor"; busy: boolean; error?: string | undefined; name: string; password: string }
  | { step: "password"; busy: boolean; error?: string | undefined; code: string; person: string }
  | { step: "token"; busy: boolean; error?: string | undefined }
  | { step: "link"; busy: boolean; error?: string | undefined };

export type SignInEvent =
  | { type: "sent" }
  | { type: "failed"; message: string }
  | { type: "factorNeeded"; name: string; password: string }
  | { type: "linkOfPerson"; code: string; person: string }
  | { type: "linkFailed"; message: string }
  | { type: "tokenWanted" }
  | { type: "nameWanted" };

export const beginning = (code: string): SignInState =>
  code === "" ? { step: "name", busy: false } : { step: "link", busy: true };

/** What is shown after something happened; whatever went wrong is shown where it was asked for. */
export function reduce(state: SignInState, event: SignInEvent): SignInState {
  switch (event.type) {
    case "sent":
      return { ...state, busy: true, error: undefined };
    case "failed":
      return state.step === "link" ? { step: "name", busy: false, error: event.message } : { ...state, busy: false, error: event.message };
    case "factorNeeded":
      return { step: "factor", busy: false, name: event.name, password: event.password };
    case "linkOfPerson":
      return { step: "password", busy: false, code: event.code, person: event.person };
    case "linkFailed":
      return { step: "name", busy: false, error: event.message };
    case "tokenWanted":
      return { step: "token", busy: false };
    case "nameWanted":
      return { step: "name", busy: false };
  }
}

/** Why an outside provider's sign-in came to nothing, by the code it is told with; undefined when it did not. */
export function refusalOf(code: string | null): string | undefined {
  switch (code) {
    case null:
      return undefined;
    case "conflict":
      return "The name you have there is somebody else's here. Ask an administrator to rename or remove that person.";
    case "busy":
      return "The provider does not answer. Try again in a moment, or sign in with a password.";
    case "route-unknown":
      return "This service knows no outside provider. Sign in with a password.";
    default:
      return "The provider did not say who you are, or it took too long. Try again; the service's log tells its owner why.";
  }
}
