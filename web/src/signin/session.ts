import { createContext, useContext } from "react";
import type { Me } from "../api/client";

/** Letters that a new password has at least, as the server asks. */
export const least = 10;

interface SessionHere {
  me: Me;
  /** The session on the server has ended; records wait on this device. */
  signedOut: boolean;
  /** Asks to sign in over what is on the screen. */
  signIn(): void;
  /** Looks again who is signed in. */
  look(): void;
}

const Context = createContext<SessionHere | undefined>(undefined);

export const Session = Context.Provider;

export function useSession(): SessionHere {
  const session = useContext(Context);
  if (!session) throw new Error("there is no session here");
  return session;
}
