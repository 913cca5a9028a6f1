import { usePictureUrl } from "../shell/picture-url";

/** A picture of the log, upright and no wider than that many pixels. */
const pictureAddress = (study: number, photo: string, width: number) =>
  `/api/studies/${study}/dye/photos/${photo}?width=${width}`;

/** A small picture that opens large. */
export function NotePicture({ study, photo, of }: { study: number; photo: string; of: string }) {
  return (
    <a
      href={pictureAddress(study, photo, 2400)}
      target="_blank"
      rel="noreferrer"
      style={{ display: "block", flex: "none" }}>
      <Small src={pictureAddress(study, photo, 400)} of={of} />
    </a>
  );
}

/** A picture that is still on this device alone. */
export function WaitingPicture({ picture, of }: { picture: Blob; of: string }) {
  const url = usePictureUrl(picture);
  return url && <Small src={url} of={of} />;
}

const Small = ({ src, of }: { src: string; of: string }) => (
  <img src={src} alt={`Picture of ${of}`} loading="lazy" style={{ display: "block", maxHeight: 112, maxWidth: 168 }} />
);
