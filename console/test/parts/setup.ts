import "./answers.js";
import "carbon-components-svelte/css/all.css";
import "../../src/app.css";
