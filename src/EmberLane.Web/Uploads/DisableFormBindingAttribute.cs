using Microsoft.AspNetCore.Mvc.Filters;
using Microsoft.AspNetCore.Mvc.ModelBinding;

namespace EmberLane.Web.Uploads;

/// <summary>Keeps the framework from reading a form by itself, so that an upload can be streamed.</summary>
[AttributeUsage(AttributeTargets.Class)]
public sealed class DisableFormBindingAttribute : Attribute, IResourceFilter
{
    public void OnResourceExecuting(ResourceExecutingContext context)
    {
        foreach (
            var factory in context
                .ValueProviderFactories.Where(f =>
                    f is FormValueProviderFactory or FormFileValueProviderFactory or JQueryFormValueProviderFactory
                )
                .ToList()
        )
        {
            context.ValueProviderFactories.Remove(factory);
        }
    }

    public void OnResourceExecuted(ResourceExecutedContext context) { }
}
