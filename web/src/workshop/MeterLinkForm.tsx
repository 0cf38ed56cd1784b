import { DEFAULT_METER_LINK, type MeterLinkSettings } from "@hound/core/record";
import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { type FormEvent, useState } from "react";
import { metersApi } from "../api/meters.ts";

const KEY = ["meter-link"];
const STATES = { off: "Not connected", connecting: "Connecting …", open: "Connected", waiting: "No meter" } as const;

/** A meter on the network that sends its readings: where it is, and how it speaks. */
export function MeterLinkForm() {
  const queries = useQueryClient();
  const { data } = useQuery({ queryKey: KEY, queryFn: metersApi.link, refetchInterval: 2000 });
  const [typed, setTyped] = useState<MeterLinkSettings | null>(null);
  const change = useMutation({
    mutationFn: metersApi.useLink,
    onSuccess: (state) => {
      queries.setQueryData(KEY, state);
      setTyped(null);
    },
  });
  const settings = typed ?? data?.settings ?? DEFAULT_METER_LINK;
  const save = (event: FormEvent) => {
    event.preventDefault();
    change.mutate({ ...settings, isOn: true });
  };
  return (
    <section aria-label="A meter that streams" className="flex flex-col gap-3">
      <h2 className="mt-4 text-xl font-bold">A meter that streams</h2>
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
            onChange={(e) => setTyped({ ...settings, address: e.target.value })}
            className="w-56 rounded border border-field bg-paper px-2 py-1.5 font-mono"
          />
        </label>
        <label className="flex flex-col">
          <span className="text-sm text-faint">It</span>
          <select
            value={settings.protocol}
            onChange={(e) => setTyped({ ...settings, protocol: e.target.value as MeterLinkSettings["protocol"] })}
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
            onClick={() => change.mutate({ ...data.settings, isOn: false })}
          >
            Disconnect
          </button>
        )}
      </form>
      {change.error && (
        <p role="alert" className="text-wrong">
          {change.error.message}
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
