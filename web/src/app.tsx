import { useQuery, useQueryClient } from "@tanstack/react-query";
import { Suspense, useEffect, useState } from "react";
import { Navigate, Route, Routes, useLocation } from "react-router";
import { Toaster } from "sonner";
import { api, ask } from "./api/client";
import { ErrorBoundary } from "./frame/error-boundary";
import { Frame } from "./frame/frame";
import { fetchScreens, screens } from "./frame/screens";
import { useTheme } from "./frame/theme";
import { SignIn, SignInAgain } from "./signin/sign-in";
import { Empty, Loading } from "./ui/basics";

export function App() {
  const queries = useQueryClient();
  const theme = useTheme();
  const at = useLocation().pathname;
  const facts = useQuery({ queryKey: ["facts"], queryFn: () => ask(api.GET("/api/v1/facts")), staleTime: Infinity });
  const session = useQuery({ queryKey: ["session"], queryFn: () => ask(api.GET("/api/v1/session")) });
  const name = session.data?.name;
  // Whoever was at work when the session ended goes on where they were.
  const [person, setPerson] = useState<string>();

  useEffect(() => {
    if (name) setPerson(name);
  }, [name]);

  useEffect(() => {
    if (name) fetchScreens();
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
          <Suspense fallback={<Loading />}>
            <Routes>
              <Route path="/" element={<Navigate to="/today" replace />} />
              <Route path="/today" element={<screens.TodayPage />} />
              <Route path="/jobs" element={<screens.JobsPage />} />
              <Route path="/jobs/:name" element={<screens.JobPage />} />
              <Route path="/layouts" element={<screens.LayoutsPage />} />
              <Route path="/layouts/:name" element={<screens.LayoutPage />} />
              <Route path="/runs" element={<screens.RunsPage />} />
              <Route path="/runs/compare" element={<screens.ComparePage />} />
              <Route path="/runs/:id" element={<screens.RunPage />} />
              <Route path="/runs/:id/follow" element={<screens.FollowPage />} />
              <Route path="/runs/:id/file" element={<screens.RunFilePage />} />
              <Route path="/rejects/reasons" element={<screens.TrendsPage />} />
              <Route path="/rejects" element={<screens.RejectsPage />} />
              <Route path="/code-lists" element={<screens.CodeListsPage />} />
              <Route path="/code-lists/:name" element={<screens.CodeListPage />} />
              <Route path="/connections" element={<screens.ConnectionsPage />} />
              <Route
                path="*"
                element={<Empty title="There is nothing at this address">Choose a screen on the left.</Empty>}
              />
            </Routes>
          </Suspense>
        </ErrorBoundary>
      </Frame>
      {!name && <SignInAgain person={who} />}
      <Toaster position="bottom-right" theme={theme.theme} />
    </>
  );
}
