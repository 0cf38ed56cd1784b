// Brings the application up with the demo data and stays in front until Ctrl-C.
import { build, install, say, serve } from "./bringUp.mjs";

install();
build();
say("Starting …");
serve({ HOUND_DEMO: process.env.HOUND_DEMO ?? "demo" });
