// Starts every module on what the page holds.
import { startBand } from "./band.js";
import { startKeys } from "./keys.js";
import { startLive } from "./live.js";
import { startChart } from "./chart.js";
import { startMarble } from "./marble.js";
import { startOnce } from "./once.js";
import { startPaper } from "./paper.js";
import { startPhoto } from "./photo.js";
import { startPoll } from "./poll.js";
import { startStack } from "./stack.js";
import { startSteppers } from "./steppers.js";
import { startTimers } from "./timers.js";
import { startZones } from "./zones.js";

startSteppers(document);
startLive(document);
startBand(document);
startOnce(document);
startZones(document);
startKeys(document);
startPaper(document);
startTimers(document);
startChart(document);
startMarble(document);
startPhoto(document);
startPoll(document);
startStack(document);
