/* A boot loader on a part without a boot section: the word at reset leads to it. */
#ifndef CM_HOST_JOIN_H
#define CM_HOST_JOIN_H

#include "job_inside.h"

/* Joins a recipe's loader, its first file, with its application. */
bool join_recipe(struct cm_job *job);

/* Is there such a loader in the chip? Into job->boot then. */
bool join_find(struct cm_job *job);

/* Does the job want another word at reset than the chip's, which leads to its loader? */
bool join_changes_reset(const struct cm_job *job);

/* The loader of the chip is wanted again; joins the job's application with it. */
bool join_kept(struct cm_job *job);

#endif
