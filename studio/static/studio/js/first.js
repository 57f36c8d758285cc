// Before the first paint: whether scripts run, for what only they can open again.
document.documentElement.classList.add("js");
