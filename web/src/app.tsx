import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useEffect, useState } from "react";
import { Navigate, Route, Routes, useLocation } from "react-router";
import { Toaster } from "sonner";
import { api, ask } from "./api/client";
import { CodeListPage } from "./codes/code-list-page";
import { CodeListsPage } from "./codes/code-lists-page";
import { ConnectionsPage } from "./connections/connections-page";
import { FollowPage } from "./follow/follow-page";
import { ErrorBoundary } from "./frame/error-boundary";
import { Frame } from "./frame/frame";
import { useTheme } from "./frame/theme";
import { JobsPage } from "./jobs/jobs-page";
import { LayoutPage } from "./layouts/layout-page";
import { LayoutsPage } from "./layouts/layouts-page";
import { RejectsPage } from "./rejects/rejects-page";
import { TrendsPage } from "./rejects/trends-page";
import { ComparePage } from "./runs/compare-page";
import { RunFilePage } from "./runs/run-file-page";
import { RunPage } from "./runs/run-page";
import { RunsPage } from "./runs/runs-page";
import { JobPage } from "./sheet/job-page";
import { SignIn, SignInAgain } from "./signin/sign-in";
import { TodayPage } from "./today/today-page";
import { Empty } from "./ui/basics";

export function App() {
  const queries = useQueryClient();
  const theme = useTheme();
  const at = useLocation().pathname;
  const facts = useQuery({ queryKey: ["facts"], queryFn: () => ask(api.GET("/api/facts")), staleTime: Infinity });
  const session = useQuery({ queryKey: ["session"], queryFn: () => ask(api.GET("/api/session")) });
  const name = session.data?.name;
  // Whoever was at work when the session ended goes on where they were.
  const [person, setPerson] = useState<string>();

  useEffect(() => {
    if (name) setPerson(name);
  }, [name]);

  useEffect(() => {
    const out = () => queries.setQueryData(["session"], { name: null });
    window.addEventListener("signed-out", out);
    return () => window.removeEventListener("signed-out", out);
  }, [queries]);

  // What a screen failed on may have been an answer that was kept.
  const forget = () =>
    queries.removeQueries({ predicate: (q) => !["session", "facts"].includes(String(q.queryKey[0])) });

  if (session.isPending || facts.isPending) return null;
  if (!session.data || !facts.data) {
    return <Empty title="Ninepin does not answer">Start it again, then load this page anew.</Empty>;
  }
  const who = name ?? person;
  if (!who) return <SignIn facts={facts.data} />;
  return (
    <>
      <Frame facts={facts.data} person={who} theme={theme}>
        <ErrorBoundary at={at} onFailed={forget}>
          <Routes>
            <Route path="/" element={<Navigate to="/today" replace />} />
            <Route path="/today" element={<TodayPage />} />
            <Route path="/jobs" element={<JobsPage />} />
            <Route path="/jobs/:name" element={<JobPage />} />
            <Route path="/layouts" element={<LayoutsPage />} />
            <Route path="/layouts/:name" element={<LayoutPage />} />
            <Route path="/runs" element={<RunsPage />} />
            <Route path="/runs/compare" element={<ComparePage />} />
            <Route path="/runs/:id" element={<RunPage />} />
            <Route path="/runs/:id/follow" element={<FollowPage />} />
            <Route path="/runs/:id/file" element={<RunFilePage />} />
            <Route path="/rejects/reasons" element={<TrendsPage />} />
            <Route path="/rejects" element={<RejectsPage />} />
            <Route path="/code-lists" element={<CodeListsPage />} />
            <Route path="/code-lists/:name" element={<CodeListPage />} />
            <Route path="/connections" element={<ConnectionsPage />} />
            <Route
              path="*"
              element={<Empty title="There is nothing at this address">Choose a screen on the left.</Empty>}
            />
          </Routes>
        </ErrorBoundary>
      </Frame>
      {!name && <SignInAgain person={who} />}
      <Toaster position="bottom-right" theme={theme.theme} />
    </>
  );
}
