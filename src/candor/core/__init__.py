"""The calculating: values in, values out. No interface, no files, no clock, no network."""
