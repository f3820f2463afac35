/* Stands before the C library of a database: what is to reach the disk does so late. The file in SLOW_DISK says how late, in milliseconds. */
#define _GNU_SOURCE
#include <dlfcn.h>
#include <stdio.h>
#include <stdlib.h>
#include <time.h>

static void wait_for_the_disk(void) {
  const char *path = getenv("SLOW_DISK");
  FILE *file = path ? fopen(path, "re") : NULL;
  long late = 0;
  if (!file) return;
  if (fscanf(file, "%ld", &late) != 1) late = 0;
  fclose(file);
  struct timespec time = {late / 1000, late % 1000 * 1000000};
  nanosleep(&time, NULL);
}

int fsync(int file) {
  int (*next)(int) = (int (*)(int))dlsym(RTLD_NEXT, "fsync");
  wait_for_the_disk();
  return next(file);
}

int fdatasync(int file) {
  int (*next)(int) = (int (*)(int))dlsym(RTLD_NEXT, "fdatasync");
  wait_for_the_disk();
  return next(file);
}
