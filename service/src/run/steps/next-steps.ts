/**
 * Steps of the same run that whoever did a step goes on with at once; `undefined` where the step was not done, since the run is
 * somewhere else by now.
 */
export type NextSteps = readonly string[] | undefined;
