import { type ComponentType, lazy } from "react";

/** A part of the interface could not be fetched: Ninepin is away, or was replaced by another version. */
export class Unfetched extends Error {
  constructor() {
    super("This screen could not be fetched. Ninepin may have been stopped, or replaced by another version.");
  }
}

/** A component in a script of its own. */
export function later<P>(fetch: () => Promise<ComponentType<P>>) {
  return lazy(() =>
    fetch().then(
      (component) => ({ default: component }),
      () => {
        throw new Unfetched();
      },
    ),
  );
}
