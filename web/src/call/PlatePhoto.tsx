import { usePhoto } from "../offline/photos";
import { Plate } from "./look";

/** The photo of the rating plate, from this device. */
export function PlatePhoto({ sha256 }: { sha256: string }) {
  const { url } = usePhoto(sha256, "whole");
  return url ? <Plate src={url} alt="The rating plate" /> : null;
}
