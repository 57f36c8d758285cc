// Starts every module on what the page holds.
import { startBand } from "./band.js";
import { startLive } from "./live.js";
import { startOnce } from "./once.js";
import { startSteppers } from "./steppers.js";
import { startZones } from "./zones.js";

startSteppers(document);
startLive(document);
startBand(document);
startOnce(document);
startZones(document);
