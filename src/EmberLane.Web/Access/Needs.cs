using EmberLane.Core.People;

namespace EmberLane.Web.Access;

/// <summary>
/// On a handler of a room: the rights of which a visitor needs at least one. On a room's page model: what its handlers of POST need that
/// say nothing themselves. Where nothing is said, GET needs <see cref="Rights.Read"/> and POST <see cref="Rights.Run"/>.
/// </summary>
[AttributeUsage(AttributeTargets.Class | AttributeTargets.Method)]
public sealed class NeedsAttribute(Rights rights) : Attribute
{
    /// <summary>One of these is enough.</summary>
    public Rights Rights => rights;
}

/// <summary>
/// On a page of a production that links show: what its address names (a sitting, a story, neither) is asked of the link. No other page of
/// a production is opened by one.
/// </summary>
[AttributeUsage(AttributeTargets.Class)]
public sealed class ByLinkAttribute : Attribute;

/// <summary>
/// On a page outside productions: everybody who is known may see it, by an account or a link. Without it only owners may.
/// </summary>
[AttributeUsage(AttributeTargets.Class)]
public sealed class ForVisitorsAttribute : Attribute;

/// <summary>On a page model or an endpoint: nobody need be known.</summary>
[AttributeUsage(AttributeTargets.Class)]
public sealed class OpenAttribute : Attribute;
