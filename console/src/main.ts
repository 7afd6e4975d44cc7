import "@fontsource/ibm-plex-sans/latin-300.css";
import "@fontsource/ibm-plex-sans/latin-400.css";
import "@fontsource/ibm-plex-sans/latin-600.css";
import "@fontsource/ibm-plex-sans/latin-ext-400.css";
import "@fontsource/ibm-plex-mono/latin-400.css";
import "carbon-components-svelte/css/all.css";
import "./app.css";
import { mount } from "svelte";
import { loadLocale } from "wuchale/load-utils";
import "./words/code.loader.js";
import "./words/pages.loader.js";
import { setPagePolicy } from "./lib/page-policy";
import { wordsLanguage } from "./lib/words-language";

setPagePolicy();
// Texts are taken from the catalogue when a module is first run: the catalogue comes before them all.
document.documentElement.lang = wordsLanguage;
await loadLocale(wordsLanguage);
const { default: App } = await import("./App.svelte");
mount(App, { target: document.getElementById("app") as HTMLElement });
