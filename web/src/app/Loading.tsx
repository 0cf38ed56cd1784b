export function Loading({ what }: { what: string }) {
  return (
    <p role="status" className="p-8 text-lg text-faint">
      Opening {what} …
    </p>
  );
}
