namespace Walkdown.Core.Acceptance;

/// <summary>One row of a Card: check x subject x part x condition.</summary>
public readonly record struct CheckKey(CheckId Check, Subject On, Condition Under)
{
    /// <summary>Rows of one Card differ by a few letters of the check, the part and the condition: those tell them apart.</summary>
    public override int GetHashCode()
    {
        var (check, part) = (Check.Value ?? "", On.Part ?? "");
        var hash = On.Id.GetHashCode() + 31 * (int)Under + 8191 * (int)On.Kind;
        foreach (var letter in check)
            hash = hash * 31 + letter;
        foreach (var letter in part)
            hash = hash * 31 + letter;
        return hash;
    }

    /// <summary>One word for addresses and lists: <c>check~Run~id~part~condition</c>.</summary>
    public override string ToString() => $"{Check}~{On.Kind}~{On.Id:N}~{On.Part}~{(int)Under}";
}
