import { useState } from "react";

const isClipFile = (file: File) => file.type.startsWith("video/") || /\.(mp4|mov|webm|m4v|mkv)$/i.test(file.name);

/** The file on the bench, in this browser's memory alone. */
export function useSource() {
  const [source, setSource] = useState<{ url: string; isClip: boolean; name: string }>();
  const put = (file: File) => {
    if (source) URL.revokeObjectURL(source.url);
    setSource({ url: URL.createObjectURL(file), isClip: isClipFile(file), name: file.name });
  };
  return { source, put, away: () => setSource(undefined) };
}
