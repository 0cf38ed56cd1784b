import { Component, type ReactNode } from "react";
import { Link, useRouteError } from "react-router";

export function PageError() {
  const error = useRouteError();
  return (
    <Trouble title="This page could not be shown" detail={error instanceof Error ? error.message : String(error)} />
  );
}

export function NotFound() {
  return (
    <Trouble
      title="There is nothing at this address"
      detail="The job may have been deleted, or the address mistyped."
    />
  );
}

export function Trouble({ title, detail, children }: { title: string; detail: string; children?: ReactNode }) {
  return (
    <main className="mx-auto max-w-xl p-8">
      <h1 className="text-2xl font-bold">{title}</h1>
      <p className="mt-3 text-lg text-faint">{detail}</p>
      {children}
      <p className="mt-6">
        <Link to="/jobs" className="text-copper underline">
          Back to the jobs
        </Link>
      </p>
    </main>
  );
}

/** Keeps a broken pane from taking the others with it; whatever it shows next starts afresh. */
export class PaneBoundary extends Component<{ name: string; children: ReactNode }, { error: Error | null }> {
  override state: { error: Error | null } = { error: null };

  static getDerivedStateFromError(error: Error) {
    return { error };
  }

  override render() {
    if (!this.state.error) return this.props.children;
    return (
      <div role="alert" className="m-4 rounded-lg border border-wrong bg-wrong-wash p-4">
        <p className="font-bold">{this.props.name} could not be drawn.</p>
        <p className="mt-1 text-faint">{this.state.error.message}</p>
        <button
          type="button"
          className="mt-3 rounded border border-wrong px-3 py-1"
          onClick={() => this.setState({ error: null })}
        >
          Try again
        </button>
      </div>
    );
  }
}
