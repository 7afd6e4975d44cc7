<script lang="ts">
import { Tag } from "carbon-components-svelte";
import { stateWord } from "../../lib/states";

let { state }: { state: string } = $props();
const kinds: Record<string, "green" | "warm-gray" | "red" | "teal" | "purple" | "outline" | "cool-gray"> = {
  done: "green",
  sent: "green",
  made: "green",
  held: "purple",
  delivering: "teal",
  sending: "teal",
  queued: "teal",
  making: "teal",
  planning: "teal",
  proving: "teal",
  failed: "red",
  refused: "red",
  unsure: "red",
  returned: "red",
  waiting: "red",
  paused: "warm-gray",
  stopped: "warm-gray",
  skipped: "warm-gray",
  "no-recipient": "outline",
};
</script>

<Tag size="sm" type={kinds[state] ?? "cool-gray"}>{stateWord(state)}</Tag>
