/** How a part of the desk's state changes. */

export type Change<State> = (changes: Partial<State> | ((state: State) => Partial<State>)) => void;
