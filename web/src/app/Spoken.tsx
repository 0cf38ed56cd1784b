import { useEffect, useState } from "react";

/** A sentence is said once it has stood so long: of what follows fast only the last is heard. */
const STANDS_MS = 1200;

/** One sentence for those who listen instead of looking; nothing of it is seen. */
export function Spoken({ text }: { text: string }) {
  const [said, setSaid] = useState("");
  useEffect(() => {
    const timer = setTimeout(() => setSaid(text), STANDS_MS);
    return () => clearTimeout(timer);
  }, [text]);
  return (
    <div role="status" className="sr-only" data-spoken>
      {said}
    </div>
  );
}
