import { EvenMark } from "../parts/Marks";
import { SecondFactor } from "./SecondFactor";
import styled from "styled-components";

const Page = styled.main`
  display: grid;
  justify-items: start;
  align-content: start;
  gap: 1.125rem;
  padding: 2rem;
  max-width: 36rem;
`;

/** Before anything else, for who must have a second factor and has none. */
export const MustBegin = ({ name, onDone }: { name: string; onDone: () => void }) => (
  <Page>
    <EvenMark size={54} />
    <h1>A second factor</h1>
    <p>{name}, your role signs in with one. What was recorded on this device is sent once it is there.</p>
    <SecondFactor onDone={onDone} />
  </Page>
);
