import type { ComponentType } from "react";
import { later } from "../ui/later";

/** The screens, each in a script of its own that is fetched when it is needed. */
const fetched = {
  CodeListPage: () => import("../codes/code-list-page").then((m) => m.CodeListPage),
  CodeListsPage: () => import("../codes/code-lists-page").then((m) => m.CodeListsPage),
  ComparePage: () => import("../runs/compare-page").then((m) => m.ComparePage),
  ConnectionsPage: () => import("../connections/connections-page").then((m) => m.ConnectionsPage),
  FollowPage: () => import("../follow/follow-page").then((m) => m.FollowPage),
  JobPage: () => import("../sheet/job-page").then((m) => m.JobPage),
  JobsPage: () => import("../jobs/jobs-page").then((m) => m.JobsPage),
  LayoutPage: () => import("../layouts/layout-page").then((m) => m.LayoutPage),
  LayoutsPage: () => import("../layouts/layouts-page").then((m) => m.LayoutsPage),
  RejectsPage: () => import("../rejects/rejects-page").then((m) => m.RejectsPage),
  RunFilePage: () => import("../runs/run-file-page").then((m) => m.RunFilePage),
  RunPage: () => import("../runs/run-page").then((m) => m.RunPage),
  RunsPage: () => import("../runs/runs-page").then((m) => m.RunsPage),
  TodayPage: () => import("../today/today-page").then((m) => m.TodayPage),
  TrendsPage: () => import("../rejects/trends-page").then((m) => m.TrendsPage),
};

type Screens = Record<keyof typeof fetched, ComponentType>;

const entries: [string, ComponentType][] = Object.entries(fetched).map(([name, fetch]) => [name, later(fetch)]);

export const screens = Object.fromEntries(entries) as Screens;

/** Fetches all of them while nothing else is to do, so that the next screen is there at once. */
export function fetchScreens() {
  const whenIdle = window.requestIdleCallback ?? ((then: () => void) => window.setTimeout(then, 1_000));
  whenIdle(() => {
    // One that does not come now is asked for again when somebody goes there.
    for (const fetch of [...Object.values(fetched), () => import("../sheet/formula-editor")]) {
      fetch().catch(() => undefined);
    }
  });
}
