using EmberLane.Core.People;
using EmberLane.Store;

namespace EmberLane.Web.Access;

/// <summary>Who asks: by an account, by a link, or at the owner's own machine; and what they may do.</summary>
public sealed class Visitor
{
    private readonly IReadOnlyDictionary<long, Role> roles;

    private Visitor(string name, Account? account, IReadOnlyDictionary<long, Role> roles, StoredAdmission? link, bool isOwner) =>
        (Name, Account, this.roles, Link, IsOwner) = (name, account, roles, link, isOwner);

    /// <summary>The name that stands beside what they do.</summary>
    public string Name { get; }

    /// <summary>The account that is signed in; null by a link alone, and where nobody need sign in.</summary>
    public Account? Account { get; }

    /// <summary>The link that they came by; null without.</summary>
    public StoredAdmission? Link { get; }

    /// <summary>Whether they have the whole installation.</summary>
    public bool IsOwner { get; }

    /// <summary>Whether nobody need sign in, since only this machine reaches the server.</summary>
    public bool IsAlone => Account is null && Link is null;

    /// <summary>Somebody at the owner's own machine: they have everything.</summary>
    public static Visitor Alone(string name) => new(name, null, new Dictionary<long, Role>(), null, isOwner: true);

    /// <summary>Somebody who signed in, by a link, or both. At least one of the two.</summary>
    public static Visitor Of(Account? account, IReadOnlyDictionary<long, Role> roles, StoredAdmission? link) =>
        new(account?.Name ?? SignInName.ByLink(link!.Label), account, roles, link, account?.IsOwner ?? false);

    /// <summary>What they may do in the rooms of a production; a link opens none.</summary>
    public Rights In(long productionId) =>
        IsOwner ? Rights.All
        : roles.TryGetValue(productionId, out var role) ? RoleRules.Of(role)
        : Rights.None;

    /// <summary>What they may do on a page that a link shows: what they may in the rooms, and what their link lets them.</summary>
    public Rights Shown(long productionId, LinkScope asked) =>
        In(productionId) | (Link?.ProductionId == productionId && Link.Shows.Holds(asked) ? Link.Rights : Rights.None);

    /// <summary>Whether they are told that something changed in a production: they are in it, or have a link to something of it.</summary>
    public bool IsTold(long productionId) => In(productionId).HasFlag(Rights.Read) || Link?.ProductionId == productionId;

    /// <summary>What they are in a production, in a word.</summary>
    public string RoleIn(long productionId) =>
        IsOwner ? "owner"
        : roles.TryGetValue(productionId, out var role) ? RoleRules.Name(role)
        : "by a link";

    /// <summary>Who asks; null for nobody that is known.</summary>
    public static Visitor? Of(HttpContext context) => context.Features.Get<Visitor>();
}
