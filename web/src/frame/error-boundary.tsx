import { Component, type ReactNode } from "react";
import { Button } from "../ui/basics";
import { Unfetched } from "../ui/later";

type Props = {
  at: string;
  /** Told that a screen failed, so that what it failed on is not taken for good any longer. */
  onFailed: () => void;
  children: ReactNode;
};

/** Keeps the rest of the interface usable when a screen fails; another address gets another chance. */
export class ErrorBoundary extends Component<Props, { error?: Error; at: string }> {
  state: { error?: Error; at: string } = { at: this.props.at };

  static getDerivedStateFromError(error: Error) {
    return { error };
  }

  static getDerivedStateFromProps(props: { at: string }, state: { error?: Error; at: string }) {
    return props.at === state.at ? null : { error: undefined, at: props.at };
  }

  componentDidCatch() {
    this.props.onFailed();
  }

  render() {
    if (!this.state.error) return this.props.children;
    if (this.state.error instanceof Unfetched) {
      return (
        <div className="mx-auto max-w-xl px-6 py-16 text-center">
          <h1>This screen is not there yet</h1>
          <p className="my-3 text-faint">{this.state.error.message}</p>
          <Button onClick={() => window.location.reload()}>Load the page anew</Button>
        </div>
      );
    }
    return (
      <div className="mx-auto max-w-xl px-6 py-16 text-center">
        <h1>This screen failed</h1>
        <p className="mt-2 text-faint">The other screens still work. If it fails again, please report this:</p>
        <p className="data my-3 text-brick">{this.state.error.message}</p>
        <Button onClick={() => this.setState({ error: undefined })}>Reload this screen</Button>
      </div>
    );
  }
}
