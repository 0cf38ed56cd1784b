export { type Given, planCase, type RankWishes, rankCase } from "./diagnose.ts";
