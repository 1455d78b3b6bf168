// Sets the ground before the first paint, so that a night page never flashes white.
try {
  document.documentElement.dataset.ground = localStorage.getItem("steady-tide.ground") || "day";
} catch {
  document.documentElement.dataset.ground = "day";
}
