import { useMutation, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { api, ask, type Schemas } from "../api/client";
import { Button, TextBox, Trouble } from "../ui/basics";
import { Dialog } from "../ui/dialog";

/** Over the page whose session has ended: what was being done there stays as it is. */
export function SignInAgain({ person }: { person: string }) {
  const queries = useQueryClient();
  const [password, setPassword] = useState("");
  const signIn = useMutation({
    mutationFn: () => ask(api.POST("/api/v1/session", { body: { name: person, password } })),
    onSuccess: (session) => {
      queries.setQueryData(["session"], session);
      window.dispatchEvent(new Event("signed-in"));
      queries.invalidateQueries();
    },
  });
  return (
    <Dialog
      open
      must
      onClose={() => {}}
      title="Your session has ended"
      actions={
        <>
          <Button onClick={() => location.reload()}>Leave this page</Button>
          <Button look="main" disabled={!password || signIn.isPending} onClick={() => signIn.mutate()}>
            Sign in and go on
          </Button>
        </>
      }
    >
      <form
        className="flex flex-col gap-3"
        onSubmit={(e) => {
          e.preventDefault();
          signIn.mutate();
        }}
      >
        <p>What you were doing is still here. Sign in again as {person} to go on.</p>
        <TextBox
          label="Password"
          type="password"
          value={password}
          onChange={setPassword}
          autoComplete="current-password"
          autoFocus
        />
        {signIn.isError && <Trouble error={signIn.error} />}
        <button type="submit" className="hidden" aria-hidden tabIndex={-1} />
      </form>
    </Dialog>
  );
}

export function SignIn({ facts }: { facts: Schemas["Facts"] }) {
  const queries = useQueryClient();
  const [name, setName] = useState(facts.demo ? "demo" : "");
  const [password, setPassword] = useState(facts.demo ? "demo" : "");
  const signIn = useMutation({
    mutationFn: () => ask(api.POST("/api/v1/session", { body: { name, password } })),
    onSuccess: (session) => queries.setQueryData(["session"], session),
  });
  return (
    <main className="flex h-full items-center justify-center">
      <form
        className="w-80 rounded-lg border border-line bg-card p-6"
        onSubmit={(e) => {
          e.preventDefault();
          signIn.mutate();
        }}
      >
        <div className="mb-5 flex items-center gap-3">
          <img src="/icon.svg" alt="" className="size-9" />
          <div>
            <h1>Ninepin</h1>
            <p className="text-faint">{facts.environment}</p>
          </div>
        </div>
        <div className="flex flex-col gap-3">
          <TextBox label="Name" value={name} onChange={setName} autoComplete="username" autoFocus required />
          <TextBox
            label="Password"
            type="password"
            value={password}
            onChange={setPassword}
            autoComplete="current-password"
            required
          />
          {signIn.isError && (
            <Trouble
              error={signIn.error.message === "You are signed out." ? "Name or password is wrong." : signIn.error}
            />
          )}
          <Button look="main" type="submit" disabled={signIn.isPending} className="justify-center">
            Sign in
          </Button>
          {facts.demo && <p className="text-xs text-faint">This is the demo: name and password are filled in.</p>}
        </div>
      </form>
    </main>
  );
}
