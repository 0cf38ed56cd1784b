import { BEND_STORIES } from "./bendStories.ts";
import { OTHER_STORIES } from "./otherStories.ts";
import { SLIP_STORIES } from "./slipStories.ts";
import { STATE_STORIES } from "./stateStories.ts";
import type { Story } from "./story.ts";
import { SYMPTOM_STORIES } from "./symptomStories.ts";

/** Everyday jobs as a technician types them, and what a good one concludes. */
export const STORIES: readonly Story[] = [
  ...SLIP_STORIES,
  ...STATE_STORIES,
  ...SYMPTOM_STORIES,
  ...OTHER_STORIES,
  ...BEND_STORIES,
];
