/** The address behind the `#`, as its parts: `#/runs/7f3a/4` is `["runs", "7f3a", "4"]`. Every view has one that can be sent on. */
function read(): string[] {
  return location.hash
    .replace(/^#\/?/, "")
    .split("/")
    .filter((part) => part !== "")
    .map(decodeURIComponent);
}

export const place = $state<{ parts: string[] }>({ parts: read() });

window.addEventListener("hashchange", () => {
  place.parts = read();
});

export function link(...parts: (string | number)[]): string {
  return `#/${parts.map((part) => encodeURIComponent(String(part))).join("/")}`;
}

export function go(...parts: (string | number)[]): void {
  location.hash = link(...parts);
}
