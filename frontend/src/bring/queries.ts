import { useQuery } from "@tanstack/react-query";

import { answered, api } from "../api/client";
import { fileForm } from "../api/file-form";
import type { Schema } from "../api/client";

/** What a package would bring; the server changes nothing. */
export const useTakenLook = (file: File) =>
  useQuery({
    queryKey: ["package", file.name, file.size, file.lastModified],
    gcTime: 0,
    staleTime: Infinity,
    retry: false,
    queryFn: () => sendPackage(file, true),
  });

export const sendPackage = (file: File, look: boolean): Promise<Schema["TakenIn"]> =>
  answered(api.POST("/api/packages", { params: { query: { look } }, ...fileForm("file", file) }));

/** The cells of somebody's table; the server keeps nothing. */
export const useTableLook = (file: File) =>
  useQuery({
    queryKey: ["entered", file.name, file.size, file.lastModified],
    gcTime: 0,
    staleTime: Infinity,
    retry: false,
    queryFn: () => answered(api.POST("/api/entered/look", fileForm("file", file))),
  });

export const useTaken = () => useQuery({ queryKey: ["packages"], queryFn: () => answered(api.GET("/api/packages")) });
