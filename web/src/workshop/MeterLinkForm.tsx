import { DEFAULT_METER_LINK, type MeterLinkSettings } from "@hound/core/record";
import { useQuery } from "@tanstack/react-query";
import { type FormEvent, useState } from "react";
import { metersApi } from "../api/meters.ts";
import { useRun } from "../desk/OutboxContext.tsx";
import { useKept } from "../desk/useKept.ts";

const KEY = ["meter-link"];
const STATES = { off: "Not connected", connecting: "Connecting …", open: "Connected", waiting: "No meter" } as const;

/** A meter on the network that sends its readings: where it is, and how it speaks. */
export function MeterLinkForm() {
  const { data } = useQuery({ queryKey: KEY, queryFn: metersApi.link, refetchInterval: 2000 });
  const { isOn: _, ...place } = data?.settings ?? DEFAULT_METER_LINK;
  const typed = useKept("meter link", place);
  const [why, setWhy] = useState("");
  const run = useRun();
  const use = (settings: MeterLinkSettings) => {
    setWhy("");
    run("meterLink", settings, `Meter at ${settings.address}`).then(
      () => typed.forget(),
      (error: Error) => setWhy(error.message),
    );
  };
  const settings = typed.value;
  const save = (event: FormEvent) => {
    event.preventDefault();
    use({ ...settings, isOn: true });
  };
  return (
    <section aria-label="A meter that streams" className="flex flex-col gap-3">
      <h2 className="text-xl font-bold">A meter that streams</h2>
      <p className="text-faint">
        The server connects to it over TCP: it is asked by SCPI queries (IEEE 488.2), or sends plain lines such as{" "}
        <span className="font-mono">7.42 V</span>. Only on this machine, unless whoever starts the server allows another
        host.
      </p>
      <form onSubmit={save} className="flex flex-wrap items-end gap-3">
        <label className="flex flex-col">
          <span className="text-sm text-faint">Host and port</span>
          <input
            value={settings.address}
            onChange={(e) => typed.set({ ...settings, address: e.target.value })}
            className="w-56 rounded border border-field bg-paper px-2 py-1.5 font-mono"
          />
        </label>
        <label className="flex flex-col">
          <span className="text-sm text-faint">It</span>
          <select
            value={settings.protocol}
            onChange={(e) => typed.set({ ...settings, protocol: e.target.value as MeterLinkSettings["protocol"] })}
            className="rounded border border-field bg-paper px-2 py-1.5"
          >
            <option value="scpi">is asked (SCPI)</option>
            <option value="lines">sends lines</option>
          </select>
        </label>
        <button type="submit" className="rounded-lg border border-rule px-4 py-2 hover:bg-band">
          {data?.settings.isOn ? "Connect anew" : "Connect"}
        </button>
        {data?.settings.isOn && (
          <button
            type="button"
            className="rounded-lg border border-rule px-4 py-2 hover:bg-band"
            onClick={() => use({ ...data.settings, isOn: false })}
          >
            Disconnect
          </button>
        )}
      </form>
      {why !== "" && (
        <p role="alert" className="text-wrong">
          {why}
        </p>
      )}
      {data && (
        <p role="status">
          {[STATES[data.state], data.state === "open" ? data.name : data.why]
            .filter((words) => words !== "")
            .join(": ")}
        </p>
      )}
    </section>
  );
}
