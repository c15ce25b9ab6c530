import { useEffect, useRef } from "react";
import { useBlocker } from "react-router";
import { Button } from "./basics";
import { Dialog } from "./dialog";

/** Asks before a page is left whose input is not kept. */
export function AskBeforeLeaving({ unkept, what }: { unkept: boolean; what: string }) {
  // Asked about as it stands when somebody leaves, however soon after the last key that is.
  const now = useRef(unkept);
  now.current = unkept;
  const blocker = useBlocker(
    ({ currentLocation: from, nextLocation: to }) =>
      now.current && from.pathname + from.search !== to.pathname + to.search,
  );
  useEffect(() => {
    const leave = (e: BeforeUnloadEvent) => now.current && e.preventDefault();
    window.addEventListener("beforeunload", leave);
    return () => window.removeEventListener("beforeunload", leave);
  }, []);
  if (blocker.state !== "blocked") return null;
  return (
    <Dialog
      open
      must
      onClose={blocker.reset}
      title={`Leave without saving ${what}?`}
      actions={
        <>
          <Button look="brick" onClick={blocker.proceed}>
            Leave without saving
          </Button>
          <Button look="main" onClick={blocker.reset}>
            Stay
          </Button>
        </>
      }
    >
      <p>What you have changed here is not saved and would be lost.</p>
    </Dialog>
  );
}
