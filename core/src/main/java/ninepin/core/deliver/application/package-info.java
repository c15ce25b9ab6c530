/**
 * An application over HTTP as the target of a run: each document is a request that may be sent again, because it carries
 * an idempotency key; answers that refuse a document become its findings. Enter at {@link
 * ninepin.core.deliver.application.ApplicationTarget}; what an application takes is read from its OpenAPI document by {@link
 * ninepin.core.deliver.application.OpenApi}.
 */
package ninepin.core.deliver.application;
